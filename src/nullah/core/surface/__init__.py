"""Readings -> surface -> the thickest flat board inside, and what planing takes. Knows no station and no part."""
