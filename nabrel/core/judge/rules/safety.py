"""Safety: what nobody argues about. The application never diagnoses; it says where not to work."""

from __future__ import annotations

from collections.abc import Iterator

from nabrel.core.judge.book import Breach, Fix, Judged, Unsettled, rule
from nabrel.core.judge.rules.material import nearest_swap
from nabrel.core.judge.ways_out import without
from nabrel.core.plan.edits import Edit, Remove, SetProduct
from nabrel.core.shelf.allergens import avoid_notice, avoided
from nabrel.core.terms.places import places
from nabrel.core.terms.steps import STEP_INFO
from nabrel.core.terms.words import join_words


@rule(
    "no-work-on-broken-skin",
    "hygiene and safety",
    "stop",
    "Nothing is laid on broken skin.",
    "Product on broken or weeping skin hurts and can infect it. Leave it alone; refer to a pharmacist or clinician.",
)
def no_work_on_broken_skin(judged: Judged) -> Iterator[Breach]:
    broken = judged.where(lambda here: here.broken)
    for _, step in judged.steps():
        if step.item is None and not any(hand[1] for hand in step.hands):
            continue
        zones = tuple(z for z in step.zones if z in broken)
        if zones:
            yield Breach(
                (step.id,),
                zones,
                f"{STEP_INFO[step.kind].words} on broken skin {places(zones)}.",
                without(step, zones),
            )


@rule(
    "nothing-avoided",
    "hygiene and safety",
    "stop",
    "Nothing the sitter avoids is used.",
    "An avoid list is asked for so that nobody reacts; stop and remove at stinging, swelling or a rash.",
)
def nothing_avoided(judged: Judged) -> Iterator[Breach]:
    avoid = judged.reading.sitter.avoid
    by_product: dict[str, list[str]] = {}
    mixed: set[str] = set()
    for _, step in judged.steps():
        for part in step.mix:
            if avoided(judged.products[part.item], avoid):
                by_product.setdefault(part.item, []).append(step.id)
                mixed.update([part.item] if len(step.mix) > 1 else [])
    for product_id, steps in by_product.items():
        product = judged.products[product_id]
        other = nearest_swap(judged, product, lambda item: True)
        edits: tuple[Edit, ...] = (
            tuple(SetProduct(s, other.id) for s in steps) if other else tuple(Remove(s) for s in steps)
        )
        yield Breach(
            tuple(steps),
            (),
            f"{product.name} contains {join_words(avoided(product, avoid))}, which the sitter avoids.",
            # What stands in for a part of a mix is for the mix to say.
            None if product_id in mixed else Fix(f"Use {other.name} instead" if other else "Leave it out", edits),
        )


@rule(
    "contents-are-known",
    "hygiene and safety",
    "problem",
    "Where the sitter avoids something, the contents of everything used are known.",
    "What nobody recorded may hold it all the same: only the label tells.",
)
def contents_are_known(judged: Judged) -> Iterator[Breach]:
    used: dict[str, list[str]] = {}
    for _, step in judged.steps():
        for part in step.mix:
            # Generic items stand for what is still to be chosen, and have no label.
            if judged.sequence.case.product(part.item) is not None:
                used.setdefault(part.item, []).append(step.id)
    notice = avoid_notice(judged.reading.sitter.avoid, (judged.products[item] for item in used))
    if notice is not None and notice.unknown:
        unknown = [item.id for item in notice.unknown]
        steps = dict.fromkeys(step for item in unknown for step in used[item])
        yield Breach(
            tuple(steps), (), notice.says_unknown, unsettled=tuple(Unsettled(item, "contents") for item in unknown)
        )
