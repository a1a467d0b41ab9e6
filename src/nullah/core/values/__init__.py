"""Plain values that everything is made of: lengths, frozen values, arrays, what is asked, designs, cautions, words."""
