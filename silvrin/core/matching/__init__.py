"""A print matched to a finished black and white picture."""
