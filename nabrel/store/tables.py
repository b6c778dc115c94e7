"""Tables. Documents are the JSON of the file formats; columns beside them are what lists and searches need."""

from __future__ import annotations

from datetime import date, datetime

from sqlalchemy import ForeignKey, Integer, LargeBinary, String, Text, UniqueConstraint
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship


class Base(DeclarativeBase):
    """Base of all tables."""


class SitterRow(Base):
    """A sitter, with what is wanted for them; ``version`` counts the changes of the record."""

    __tablename__ = "sitter"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    nickname: Mapped[str] = mapped_column(String(60), index=True)
    position: Mapped[int] = mapped_column(Integer, unique=True)
    sitter: Mapped[str] = mapped_column(Text)
    intent: Mapped[str] = mapped_column(Text)
    created_at: Mapped[datetime]
    changed_at: Mapped[datetime]
    version: Mapped[int] = mapped_column(Integer, default=1)

    sequences: Mapped[list[SequenceRow]] = relationship(cascade="all, delete-orphan", passive_deletes=True)
    readings: Mapped[list[ReadingRow]] = relationship(cascade="all, delete-orphan", passive_deletes=True)


class KitItemRow(Base):
    """One item of the shelf."""

    __tablename__ = "kit_item"

    id: Mapped[str] = mapped_column(String(60), primary_key=True)
    role: Mapped[str] = mapped_column(String(30), index=True)
    name: Mapped[str] = mapped_column(String(120))
    position: Mapped[int] = mapped_column(Integer, unique=True)
    item: Mapped[str] = mapped_column(Text)
    created_at: Mapped[datetime]
    version: Mapped[int] = mapped_column(Integer, default=1)


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
    favourite: Mapped[bool] = mapped_column(default=False)

    revisions: Mapped[list[RevisionRow]] = relationship(cascade="all, delete-orphan", passive_deletes=True)
    runs: Mapped[list[RunRow]] = relationship(cascade="all, delete-orphan", passive_deletes=True)


class DecisionRow(Base):
    """What was decided otherwise about a rule or a house parameter; ``about`` is ``rule`` or ``parameter``."""

    __tablename__ = "decision"

    about: Mapped[str] = mapped_column(String(12), primary_key=True)
    name: Mapped[str] = mapped_column(String(60), primary_key=True)
    document: Mapped[str] = mapped_column(Text)
    changed_at: Mapped[datetime]
    version: Mapped[int] = mapped_column(Integer, default=1)


class TakenOverRow(Base):
    """A factor that was taken over from wear records; one about a sitter is erased with the sitter."""

    __tablename__ = "taken_over"

    id: Mapped[int] = mapped_column(Integer, primary_key=True, autoincrement=True)
    sitter_id: Mapped[str | None] = mapped_column(ForeignKey("sitter.id", ondelete="CASCADE"), index=True)
    document: Mapped[str] = mapped_column(Text)


class RevisionRow(Base):
    """One revision of a sequence. ``parent`` is the revision it was made from; undo goes there, redo comes back.

    A revision with a ``name`` is a version that somebody wanted to find again. Its document leaves the kit out, which ``kit``
    refers to.
    """

    __tablename__ = "revision"
    __table_args__ = (UniqueConstraint("sequence_id", "number"),)

    id: Mapped[int] = mapped_column(Integer, primary_key=True, autoincrement=True)
    sequence_id: Mapped[str] = mapped_column(ForeignKey("sequence.id", ondelete="CASCADE"), index=True)
    number: Mapped[int] = mapped_column(Integer)
    parent: Mapped[int | None] = mapped_column(Integer)
    says: Mapped[str] = mapped_column(String(300))
    name: Mapped[str | None] = mapped_column(String(80))
    document: Mapped[str] = mapped_column(Text)
    kit: Mapped[str | None] = mapped_column(ForeignKey("kit_snapshot.id"), index=True)
    created_at: Mapped[datetime]


class KitSnapshotRow(Base):
    """A kit as plans were made with it, kept once by its content and referred to by revisions; no plan changes it."""

    __tablename__ = "kit_snapshot"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    document: Mapped[str] = mapped_column(Text)


class ReadingRow(Base):
    """One dated reading of a sitter's skin."""

    __tablename__ = "reading"

    id: Mapped[int] = mapped_column(Integer, primary_key=True, autoincrement=True)
    sitter_id: Mapped[str] = mapped_column(ForeignKey("sitter.id", ondelete="CASCADE"), index=True)
    day: Mapped[date]
    place: Mapped[str] = mapped_column(String(30))
    what: Mapped[str] = mapped_column(String(12))
    document: Mapped[str] = mapped_column(Text)


class ToolRow(Base):
    """One tool that is owned."""

    __tablename__ = "tool"

    id: Mapped[str] = mapped_column(String(60), primary_key=True)
    kind: Mapped[str] = mapped_column(String(30))
    position: Mapped[int] = mapped_column(Integer, unique=True)
    document: Mapped[str] = mapped_column(Text)
    version: Mapped[int] = mapped_column(Integer, default=1)


class NamedKitRow(Base):
    """A named part of the shelf."""

    __tablename__ = "named_kit"

    id: Mapped[str] = mapped_column(String(60), primary_key=True)
    name: Mapped[str] = mapped_column(String(120))
    position: Mapped[int] = mapped_column(Integer, unique=True)
    document: Mapped[str] = mapped_column(Text)
    version: Mapped[int] = mapped_column(Integer, default=1)


class RunRow(Base):
    """One time that a plan was done; ``key`` finds one that is worked to the clock."""

    __tablename__ = "run"

    id: Mapped[int] = mapped_column(Integer, primary_key=True, autoincrement=True)
    sequence_id: Mapped[str] = mapped_column(ForeignKey("sequence.id", ondelete="CASCADE"), index=True)
    revision: Mapped[int] = mapped_column(Integer)
    day: Mapped[date]
    key: Mapped[str | None] = mapped_column(String(32), unique=True, index=True)
    document: Mapped[str] = mapped_column(Text)


class WearRow(Base):
    """How one base wore; ``key`` finds it. What lists say of it stands beside the document: when it was put on (in UTC, and as it
    was written), how many looks, the minute of the last, and the signs that were seen, with spaces between.
    """

    __tablename__ = "wear"

    id: Mapped[int] = mapped_column(Integer, primary_key=True, autoincrement=True)
    sequence_id: Mapped[str] = mapped_column(ForeignKey("sequence.id", ondelete="CASCADE"), index=True)
    key: Mapped[str] = mapped_column(String(32), unique=True)
    worn: Mapped[datetime] = mapped_column(index=True)
    worn_from: Mapped[str] = mapped_column(String(40))
    looks: Mapped[int] = mapped_column(Integer)
    last_min: Mapped[float | None]
    signs: Mapped[str] = mapped_column(String(200))
    document: Mapped[str] = mapped_column(Text)


class TrialRow(Base):
    """Two ways of one plan that are worn against each other."""

    __tablename__ = "trial"

    key: Mapped[str] = mapped_column(String(32), primary_key=True)
    sequence_id: Mapped[str] = mapped_column(ForeignKey("sequence.id", ondelete="CASCADE"), index=True)
    document: Mapped[str] = mapped_column(Text)


class PhotoRow(Base):
    """A photograph beside a look, as a JPEG with nothing but the picture in it."""

    __tablename__ = "photo"

    key: Mapped[str] = mapped_column(String(32), primary_key=True)
    wear_id: Mapped[int] = mapped_column(ForeignKey("wear.id", ondelete="CASCADE"), index=True)
    picture: Mapped[bytes] = mapped_column(LargeBinary)


class ClassRow(Base):
    """A class of a plan: when, where and with what it is held. ``version`` grows with every change of it."""

    __tablename__ = "class"

    key: Mapped[str] = mapped_column(String(32), primary_key=True)
    sequence_id: Mapped[str] = mapped_column(ForeignKey("sequence.id", ondelete="CASCADE"), index=True)
    day: Mapped[date] = mapped_column(index=True)
    version: Mapped[int] = mapped_column(Integer)
    document: Mapped[str] = mapped_column(Text)


class ClassStudentRow(Base):
    """Who comes to a class. Names are here alone, and go with the sitter whose face it is; the class knows students by ``key``."""

    __tablename__ = "class_student"

    key: Mapped[str] = mapped_column(String(32), primary_key=True)
    class_key: Mapped[str] = mapped_column(ForeignKey("class.key", ondelete="CASCADE"), index=True)
    sitter_id: Mapped[str | None] = mapped_column(ForeignKey("sitter.id", ondelete="CASCADE"), index=True)
    position: Mapped[int] = mapped_column(Integer)
    document: Mapped[str] = mapped_column(Text)


class StudentRow(Base):
    """A student who practises; ``name_key`` is the name as it is looked for. One who is a sitter here goes with the sitter."""

    __tablename__ = "student"

    key: Mapped[str] = mapped_column(String(32), primary_key=True)
    name: Mapped[str] = mapped_column(String(60))
    name_key: Mapped[str] = mapped_column(String(120), unique=True)
    group: Mapped[str] = mapped_column(String(120))
    sitter_id: Mapped[str | None] = mapped_column(ForeignKey("sitter.id", ondelete="CASCADE"), index=True)
    position: Mapped[int] = mapped_column(Integer)


class CardRow(Base):
    """What a student knows of one judgement."""

    __tablename__ = "card"

    student_key: Mapped[str] = mapped_column(ForeignKey("student.key", ondelete="CASCADE"), primary_key=True)
    judgement: Mapped[str] = mapped_column(String(120), primary_key=True)
    document: Mapped[str] = mapped_column(Text)


class AnswerRow(Base):
    """One answer of a student, to a set's question where ``set_key`` names one: ``place`` says which. Each place counts once."""

    __tablename__ = "answer"
    __table_args__ = (UniqueConstraint("student_key", "set_key", "place"),)

    id: Mapped[int] = mapped_column(Integer, primary_key=True, autoincrement=True)
    student_key: Mapped[str] = mapped_column(ForeignKey("student.key", ondelete="CASCADE"), index=True)
    set_key: Mapped[str | None] = mapped_column(ForeignKey("drill_set.key", ondelete="SET NULL"), index=True)
    place: Mapped[int | None]
    document: Mapped[str] = mapped_column(Text)


class DrillSetRow(Base):
    """A set of exercises made by hand; its faces stand in rows of their own, and go with the sitters."""

    __tablename__ = "drill_set"

    key: Mapped[str] = mapped_column(String(32), primary_key=True)
    code: Mapped[str] = mapped_column(String(12), unique=True)
    position: Mapped[int] = mapped_column(Integer)
    document: Mapped[str] = mapped_column(Text)


class DrillSetFaceRow(Base):
    """A sitter whose face a set asks about."""

    __tablename__ = "drill_set_face"

    set_key: Mapped[str] = mapped_column(ForeignKey("drill_set.key", ondelete="CASCADE"), primary_key=True)
    sitter_id: Mapped[str] = mapped_column(ForeignKey("sitter.id", ondelete="CASCADE"), primary_key=True)
    position: Mapped[int] = mapped_column(Integer)


class DrillSessionRow(Base):
    """A drill session that goes on: a student's or a guest's, of a set or free; ``account`` is whose browser it is in."""

    __tablename__ = "drill_session"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    student_key: Mapped[str | None] = mapped_column(ForeignKey("student.key", ondelete="CASCADE"), index=True)
    set_key: Mapped[str | None] = mapped_column(ForeignKey("drill_set.key", ondelete="CASCADE"), index=True)
    account: Mapped[str | None] = mapped_column(String(16), index=True)
    used_at: Mapped[datetime]
    document: Mapped[str] = mapped_column(Text)


class DrillAskedRow(Base):
    """One exercise that was asked in a session, with how it was answered."""

    __tablename__ = "drill_asked"

    key: Mapped[str] = mapped_column(String(32), primary_key=True)
    session_id: Mapped[str] = mapped_column(ForeignKey("drill_session.id", ondelete="CASCADE"), index=True)
    number: Mapped[int] = mapped_column(Integer)
    document: Mapped[str] = mapped_column(Text)


class DrillTakeRow(Base):
    """The one time that a set counts for a student; ``begun_at`` is None where another try is allowed and not begun."""

    __tablename__ = "drill_take"

    set_key: Mapped[str] = mapped_column(ForeignKey("drill_set.key", ondelete="CASCADE"), primary_key=True)
    student_key: Mapped[str] = mapped_column(ForeignKey("student.key", ondelete="CASCADE"), primary_key=True)
    seed: Mapped[int] = mapped_column(Integer)
    begun_at: Mapped[datetime | None]
    ended: Mapped[bool]


class AccountRow(Base):
    """Somebody who may sign in; ``key`` is the name as it is looked for, ``password`` what it hashes to."""

    __tablename__ = "account"

    id: Mapped[str] = mapped_column(String(16), primary_key=True)
    name: Mapped[str] = mapped_column(String(60))
    key: Mapped[str] = mapped_column(String(120), unique=True)
    role: Mapped[str] = mapped_column(String(12))
    password: Mapped[str] = mapped_column(String(200))
    made_at: Mapped[datetime]


class SignInRow(Base):
    """Where somebody is signed in; ``id`` is what the secret hashes to that the browser keeps."""

    __tablename__ = "sign_in"

    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    account_id: Mapped[str] = mapped_column(ForeignKey("account.id", ondelete="CASCADE"), index=True)
    since: Mapped[datetime]
    seen: Mapped[datetime]
