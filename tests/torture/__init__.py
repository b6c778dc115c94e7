"""``make torture``: the running server and its data under what no day should bring. Not part of the tests."""
