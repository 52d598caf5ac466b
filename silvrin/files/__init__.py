"""Reading captures and writing prints."""
