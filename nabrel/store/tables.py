"""Tables. Documents are the JSON of the file formats; columns beside them are what lists and searches need."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import ForeignKey, Integer, String, Text, UniqueConstraint
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship


class Base(DeclarativeBase):
    """Base of all tables."""


class SitterRow(Base):
    """A sitter, with what is wanted for them."""

    __tablename__ = "sitter"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    nickname: Mapped[str] = mapped_column(String(60), index=True)
    position: Mapped[int] = mapped_column(Integer, default=0)
    sitter: Mapped[str] = mapped_column(Text)
    intent: Mapped[str] = mapped_column(Text)
    created_at: Mapped[datetime]
    changed_at: Mapped[datetime]

    sequences: Mapped[list[SequenceRow]] = relationship(cascade="all, delete-orphan", passive_deletes=True)


class KitItemRow(Base):
    """One item of the shelf."""

    __tablename__ = "kit_item"

    id: Mapped[str] = mapped_column(String(60), primary_key=True)
    role: Mapped[str] = mapped_column(String(30), index=True)
    name: Mapped[str] = mapped_column(String(120))
    position: Mapped[int] = mapped_column(Integer, default=0)
    item: Mapped[str] = mapped_column(Text)
    created_at: Mapped[datetime]


class SequenceRow(Base):
    """A sequence; ``head`` is the number of the revision that stands."""

    __tablename__ = "sequence"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    sitter_id: Mapped[str] = mapped_column(ForeignKey("sitter.id", ondelete="CASCADE"), index=True)
    title: Mapped[str] = mapped_column(String(120))
    school: Mapped[str] = mapped_column(String(30))
    head: Mapped[int] = mapped_column(Integer)
    created_at: Mapped[datetime]
    changed_at: Mapped[datetime]

    revisions: Mapped[list[RevisionRow]] = relationship(cascade="all, delete-orphan", passive_deletes=True)


class DecisionRow(Base):
    """What was decided otherwise about a rule or a house parameter; ``about`` is ``rule`` or ``parameter``."""

    __tablename__ = "decision"

    about: Mapped[str] = mapped_column(String(12), primary_key=True)
    name: Mapped[str] = mapped_column(String(60), primary_key=True)
    document: Mapped[str] = mapped_column(Text)
    changed_at: Mapped[datetime]


class RevisionRow(Base):
    """One revision of a sequence. ``parent`` is the revision it was made from; undo goes there, redo comes back."""

    __tablename__ = "revision"
    __table_args__ = (UniqueConstraint("sequence_id", "number"),)

    id: Mapped[int] = mapped_column(Integer, primary_key=True, autoincrement=True)
    sequence_id: Mapped[str] = mapped_column(ForeignKey("sequence.id", ondelete="CASCADE"), index=True)
    number: Mapped[int] = mapped_column(Integer)
    parent: Mapped[int | None] = mapped_column(Integer)
    says: Mapped[str] = mapped_column(String(300))
    document: Mapped[str] = mapped_column(Text)
    created_at: Mapped[datetime]
