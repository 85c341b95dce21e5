"""What comes in as JSON: plain numbers, whole letters, nothing that fills the memory when it is read."""

import json
from typing import Any, NoReturn

from django.http import HttpRequest
from ninja.parser import Parser

from valley.errors import FormatError
from valley.theory.amounts import require_plain_numbers


class StrictParser(Parser):
    """Refuses what no page sends."""

    def parse_body(self, request: HttpRequest) -> Any:
        text = request.body.decode("utf-8")
        require_plain_numbers(text)
        data = json.loads(text, parse_constant=_refuse)
        json.dumps(data, ensure_ascii=False).encode("utf-8")  # half a letter can be read, but never kept
        return data


def _refuse(name: str) -> NoReturn:
    raise FormatError(f"{name} is no number")
