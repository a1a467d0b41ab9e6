"""What changed at the station one turned to since one looked, told in a line across the window."""

from __future__ import annotations

from nullah.gui.notice import Notice
from nullah.gui.session import Session

SHOWN = 3


def tell(notice: Notice, session: Session) -> None:
    """Say what changed, old and new, until it is seen; nothing changed: the line goes."""
    news, told = session.news, session.told
    if not news:
        notice.close_quietly()
        return
    first = "   ".join(told(c.words) for c in news[:SHOWN])
    more = f"   and {len(news) - SHOWN} more" if len(news) > SHOWN else ""
    every = "\n".join(told(c.words) for c in news)
    notice.say(f"Changed since you looked:   {first}{more}", ("Seen  N", lambda: None), tip=every)
