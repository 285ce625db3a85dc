"""Where values sit in the document, and every change that may be made to it."""
