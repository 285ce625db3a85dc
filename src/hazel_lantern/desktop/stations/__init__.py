"""What each station adds to the frame."""
