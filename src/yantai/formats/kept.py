"""Values as JSON for the database, and back."""

from __future__ import annotations

from typing import Any, Generic, TypeVar

from pydantic import TypeAdapter

T = TypeVar("T")


class Kept(Generic[T]):
    """How values of a type are kept: dataclasses, models, and unions of them told apart by a field `kind`."""

    def __init__(self, kind: Any) -> None:
        self._adapter: TypeAdapter[T] = TypeAdapter(kind)

    @property
    def schema(self) -> dict[str, Any]:
        """What is kept, as a JSON schema: another one is another shape."""
        return self._adapter.json_schema(mode="serialization")

    def to_json(self, value: T) -> Any:
        """`value` of JSON's own types."""
        return self._adapter.dump_python(value, mode="json", by_alias=True)

    def to_bytes(self, value: T) -> bytes:
        """The same value as the same bytes, always."""
        return self._adapter.dump_json(value)

    def to_text(self, value: T) -> str:
        """The same as JSON."""
        return self._adapter.dump_json(value, by_alias=True).decode()

    def from_text(self, kept: str) -> T:
        """What `to_text` was given.

        Raises:
            ValidationError: it was kept by a version of the application that knew other fields.
        """
        return self._adapter.validate_json(kept)

    def from_json(self, kept: Any) -> T:
        """What `to_json` was given."""
        return self._adapter.validate_python(kept)
