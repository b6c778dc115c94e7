"""Pictures of a card: read, put together, refused, and what their colours change in plans."""

from __future__ import annotations

import subprocess
import sys
import tempfile
import time
from dataclasses import replace
from pathlib import Path
from statistics import median

from PIL import Image

from bench.timing import Figure
from nabrel.core.ask.measured import changed_by
from nabrel.core.ask.recommend import plan
from nabrel.core.card.layout import card
from nabrel.core.card.reading import pooled, read_card
from nabrel.core.house import House
from nabrel.core.judge.evaluate import evaluate
from nabrel.demo.kestrel_quay import sitters
from nabrel.demo.pictures import FOLDER
from nabrel.formats.photo import opened_picture

ROUNDS = 9
LARGEST = (5900, 4060)
READING = """
import sys, time
began = time.perf_counter()
from nabrel.cli import main
main(["read-card", sys.argv[1]])
most = next(line for line in open("/proc/self/status") if line.startswith("VmHWM:")).split()[1]
print(time.perf_counter() - began, int(most) / 1000, file=sys.stderr)
"""


def photographing() -> list[Figure]:
    """A card read warm, two pictures as one, the largest picture that may be opened refused by a cold process, and plans told."""
    house, on = House(), card()
    pictures = [(FOLDER / name).read_bytes() for name in ("kit-card.jpg", "kit-card-again.jpg")]
    readings = tuple(read_card(opened_picture(each), on, house) for each in pictures)
    took = []
    for _ in range(ROUNDS):
        started = time.perf_counter()
        read_card(opened_picture(pictures[0]), on, house)
        took.append(1000 * (time.perf_counter() - started))
    started = time.perf_counter()
    pooled(readings, on, house)
    together = 1000 * (time.perf_counter() - started)
    refused_ms, refused_mb = _refused()
    plans = [evaluate(plan(case, house), house) for case in sitters()]
    started = time.perf_counter()
    for now in plans:
        used = {part.item for step in now.sequence.steps for part in step.mix}
        fresh = {
            item.id: replace(item, lab=(item.lab[0] - 3.0, item.lab[1], item.lab[2]))
            for item in now.sequence.case.kit
            if item.id in used and item.lab is not None
        }
        changed_by(now, fresh, house)
    told = (time.perf_counter() - started) / len(plans) * 1000
    return [
        Figure(f"a picture of a card with ten films read, median of {ROUNDS}", median(took), 1000),
        Figure("two pictures of it put together", together, 1000),
        Figure("a picture of 24 megapixels without a card refused, cold process", refused_ms, 2000),
        Figure("memory of that process, peak", refused_mb, 300, "MB"),
        Figure("what measured colours change in one plan, mean of the demo's", told, 500),
    ]


def _refused() -> tuple[float, float]:
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "large.png"
        Image.new("RGB", LARGEST, (150, 130, 120)).save(file, compress_level=1)
        said = subprocess.run(
            [sys.executable, "-c", READING, str(file)], capture_output=True, text=True, check=True
        ).stderr.split()
    return float(said[-2]) * 1000, float(said[-1])
