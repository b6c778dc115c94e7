"""The rule book: one module a family, one function a rule, each with its reason and a fix where one exists."""
