"""What was built against what was drawn: readings of simple instruments, what they say, and how sure that is."""
