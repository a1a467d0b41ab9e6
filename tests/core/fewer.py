"""For properties that plan a piece or two each time: fewer examples than of others."""

from hypothesis import settings

FEWER = settings(max_examples=max(settings.default.max_examples // 4, 25))
