"""Parts, cuts, marks, lists and cost."""
