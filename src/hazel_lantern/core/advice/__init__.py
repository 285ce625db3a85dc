"""What to do about it: remedies tried, what turns a verdict, rigs proposed, rigs compared, ways that builders differ
on.
"""
