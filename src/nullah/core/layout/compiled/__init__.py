"""The compiled inner loop of the search: one board filled by full cuts, and boards emptied and filled again many times.

Loaded late, by ``planner`` alone, since Numba takes half a second to import. Everything here works on plain arrays; what they
hold is said in ``encoding``, which makes them and reads the result back. Numbers are mm and mm2. Nothing here reads a clock
or draws a number but from the state it is given: the same arrays, seed and count of rounds give the same layout.

Method: ruin and recreate (Schrimpf et al. 2000) over randomised greedy guillotine filling with one step of look-ahead, where
parts of nearly one length or width are first joined into blocks (after Wang 1983), accepted by a threshold that cools; and
the same with small pieces parted by an exact search.

``pieces`` cuts them, ``items`` are what is laid, ``fill`` fills a board, ``rounds`` is the search; ``sets`` are what may be laid
together, ``exact`` says whether they fit a piece at all, ``freeing`` by which cuts, and ``exchange`` searches by it. Numba's cache
knows a function by its own file and not by those it calls: ``tools/warm.py`` throws the cache away before it compiles, and make
runs it when any of these files is newer.
"""
