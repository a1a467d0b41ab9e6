"""Display lists of the stations' results: the piece, the boards, a face being trued, the frame. All geometry, no paint."""
