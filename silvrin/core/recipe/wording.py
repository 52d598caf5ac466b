"""What does not hold of settings, in words."""

from typing import Any

from pydantic import ValidationError

from .parts import placed


def explain(error: ValidationError) -> list[str]:
    """A sentence for each field of a failed validation: where, what is allowed, what was given."""
    return sentences([dict(item) for item in error.errors(include_url=False)])


def sentences(items: list[dict[str, Any]]) -> list[str]:
    """A sentence for each of pydantic's errors. That a list is too short is not said where that is
    because of what is wrong with those in it."""

    def follows(item: dict[str, Any]) -> bool:
        inside = (other["loc"][: len(item["loc"])] for other in items if other is not item)
        return item["type"] == "too_short" and item["loc"] in inside

    return [sentence(item) for item in items if not follows(item)]


def sentence(item: dict[str, Any]) -> str:
    """One failed field in words, from an item of pydantic's list of errors."""
    where = ".".join(str(part) for part in placed(item["loc"])) or "the file"
    given = repr(item.get("input"))
    given = given if len(given) <= 60 else given[:57] + "..."
    if item["type"] == "extra_forbidden":
        return f"{where} is not a field Silvrin knows (given {given}); remove it"
    if item["type"] == "json_invalid":
        return f"{where} is not JSON: {item['msg'].removeprefix('Invalid JSON: ')}"
    message = item["msg"].removeprefix("Value error, ")
    message = message[0].lower() + message[1:]
    # fields that do not go together say themselves what was given
    told = item["type"] == "recipe" or isinstance(item.get("input"), dict)
    return f"{where}: {message}" if told else f"{where}: {message}, given {given}"
