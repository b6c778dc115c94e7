"""Wear: what a zone carries, how it creases, when it shines. Indices and estimates, labelled as such."""
