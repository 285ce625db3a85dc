"""The tests, by what they look at; each module holds a table of its own."""
