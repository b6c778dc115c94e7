"""Names and notes hold plain text only: control characters and changes of direction that older versions took become spaces."""

import json
import re
from base64 import b85decode, b85encode
from typing import Any, Callable
from zlib import compress, decompress

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

ODD = re.compile("[\x00-\x09\x0b-\x1f\x7f-\x9f\u2028\u2029\u202a-\u202e\u2066-\u2069\ufeff]")
SEVERAL_LINES = {"about", "note"}
PLAIN = (
    ("sitter", "id", ("nickname",)), ("kit_item", "id", ("name",)), ("sequence", "id", ("title",)),
    ("revision", "id", ("says", "name")), ("named_kit", "id", ("name",)),
)
DOCUMENTS = (
    ("sitter", "id", ("sitter", "intent")), ("kit_item", "id", ("item",)), ("kit_snapshot", "id", ("document",)),
    ("tool", "id", ("document",)), ("named_kit", "id", ("document",)), ("decision", "rowid", ("document",)),
    ("reading", "id", ("document",)), ("run", "id", ("document",)), ("revision", "id", ("document",)),
)


def plain(text: str, lines: bool = False) -> str:
    text = ODD.sub(" ", text)
    return text if lines else text.replace("\n", " ")


def cleaned(value: Any, lines: bool = False) -> Any:
    if isinstance(value, str):
        return plain(value, lines)
    if isinstance(value, list):
        return [cleaned(each, lines) for each in value]
    if isinstance(value, dict):
        return {plain(key): cleaned(each, key in SEVERAL_LINES) for key, each in value.items()}
    return value


def cleaned_document(text: str) -> str:
    packed = text.startswith("zlib:")
    whole = json.loads(decompress(b85decode(text[5:])) if packed else text)
    clean = cleaned(whole)
    if clean == whole:
        return text
    found = json.dumps(clean, ensure_ascii=False, separators=(",", ":"))
    return "zlib:" + b85encode(compress(found.encode(), 6)).decode() if packed else found


def upgrade() -> None:
    connection = op.get_bind()
    passes: tuple[tuple[Any, Callable[[str], str]], ...] = ((PLAIN, plain), (DOCUMENTS, cleaned_document))
    for rows, change in passes:
        for table, key, columns in rows:
            for column in columns:
                ids = [row[0] for row in connection.execute(sa.text(f"SELECT {key} FROM {table} WHERE {column} IS NOT NULL"))]
                for number in ids:
                    where = {"id": number}
                    was = connection.execute(sa.text(f"SELECT {column} FROM {table} WHERE {key} = :id"), where).scalar_one()
                    now = change(was)
                    if now != was:
                        connection.execute(
                            sa.text(f"UPDATE {table} SET {column} = :now WHERE {key} = :id"), {**where, "now": now}
                        )


def downgrade() -> None:
    pass
