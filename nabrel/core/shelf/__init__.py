"""The kit: which product serves a step here, which bases agree, and amounts in hands' words."""
