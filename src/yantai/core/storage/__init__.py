"""Where what is cooked is kept, for how long, and on which day it is eaten."""
