"""Reading and writing files. One module for each format."""
