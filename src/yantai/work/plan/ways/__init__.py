"""Ways out of a target that is missed: limits, extras, amounts, foods, another batch, the target itself."""
