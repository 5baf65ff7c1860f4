"""One description of every drawing; millimetres; no interface code."""
