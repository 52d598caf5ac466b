"""Development: developers, local contrast, zone lift and contrast, brightness."""
