"""Benchmarks against the budgets; run by ``make bench``, never by the tests."""
