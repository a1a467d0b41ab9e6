"""The project as a value: pieces, boards, calls, history, and what a value refuses."""
