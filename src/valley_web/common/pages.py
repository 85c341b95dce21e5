"""Long lists come in pages that grow: at most so many rows, the newest first, and how many there are in all."""

from typing import Annotated

from ninja import Query

MOST_ROWS = 2000
Limit = Annotated[int, Query(ge=1, le=MOST_ROWS)]
