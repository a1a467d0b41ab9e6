"""The computation: pure functions of values, lengths in mm.

Nothing here may import Qt, touch a file, read a clock or keep global state. Imports flow one way:
plan -> stations -> pieces -> joints, layout -> surface, wood -> document, drawing, measure.
"""
