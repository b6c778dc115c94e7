"""How a case becomes a plan, in six schools of order."""
