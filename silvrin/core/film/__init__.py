"""Film: stocks, their sensitivity and characteristic curve, zones."""
