"""Orders of work as practitioners lay them, on faces and kits like theirs: what each layer is, in which texture, in which order."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from nabrel.core.case.case import Case
from nabrel.core.case.intent import Intent, Options
from nabrel.core.case.product import Product
from nabrel.core.case.sitter import Colour, Sitter, ZoneSkin
from nabrel.core.plan.sequence import Sequence
from nabrel.core.terms.colour import Lab

LIGHT, MEDIUM, TAN, BROWN, DARK = (72, 10, 15), (62, 11, 17), (54, 13, 19), (46, 14, 19), (34, 12, 13)
UNDER_EYES = ("under_eye_l", "under_eye_r")
CHEEKS = ("cheek_apple_l", "cheek_apple_r")


@dataclass(frozen=True)
class Order:
    """A face, a kit and a wish, and the layers that a practitioner lays for them, in order.

    ``lays`` names kinds of step, with the texture where it matters: "shade cream", "colour pan". ``kit`` are short names of
    ``ITEMS``; what every kit holds need not be named.
    """

    school: str
    skin: Lab
    kit: str
    lays: str
    preset: str = "normal"
    wish: dict[str, Any] = field(default_factory=dict)
    options: dict[str, Any] = field(default_factory=dict)
    zones: dict[str, dict[str, int]] = field(default_factory=dict)

    def case(self) -> Case:
        """The case that it is planned from."""
        zones = {zone: ZoneSkin(conditions) for zone, conditions in self.zones.items()}
        intent = Intent(school=self.school, options=Options(**self.options), **self.wish)
        kit = tuple(item(name, self.skin) for name in (*ALWAYS, *self.kit.split()))
        return Case(Sitter("Someone", Colour(self.skin), preset=self.preset, zones=zones), intent, kit)

    @property
    def layers(self) -> list[str]:
        """The layers in order, each as "kind" or "kind texture"."""
        return [part.strip() for part in self.lays.split(",")]


ALWAYS = ("cleanser", "cream", "fdn", "con")
ITEMS: dict[str, tuple[str, str, str, tuple[float, float, float] | None, float | None, dict[str, Any]]] = {
    "cleanser": ("cleanser", "gel", "water", None, None, {}),
    "cream": ("moisturiser", "cream", "water", None, None, {"suits": ("dry",)}),
    "gel": ("moisturiser", "gel", "water", None, None, {"suits": ("oily",)}),
    "toner": ("toner", "liquid", "water", None, None, {"suits": ("oily", "dehydrated")}),
    "eye": ("eye_care", "cream", "water", None, None, {"suits": ("dry", "fine_lines", "creping")}),
    "spf": ("sunscreen", "cream", "water", None, None, {}),
    "pore": ("primer", "cream", "silicone", None, None, {"suits": ("enlarged_pores", "pitted_scar", "raised_texture")}),
    "matt": ("primer", "gel", "silicone", None, None, {"suits": ("oily",)}),
    "dew": ("primer", "liquid", "water", None, None, {"suits": ("dry", "dehydrated", "fine_lines")}),
    "peach": ("corrector", "cream", "anhydrous", (8, 10, 9), 0.55, {}),
    "salmon": ("corrector", "cream", "anhydrous", (0, 16, 9), 0.55, {}),
    "orange": ("corrector", "cream", "anhydrous", (-2, 22, 22), 0.55, {}),
    "red": ("corrector", "cream", "anhydrous", (2, 28, 22), 0.55, {}),
    "green": ("corrector", "cream", "anhydrous", (4, -24, 4), 0.5, {}),
    "fdn": ("foundation", "liquid", "silicone", (0, 0, 1), 0.5, {}),
    "sheer": ("foundation", "liquid", "silicone", (0, 0, 1), 0.3, {"finish": "dewy"}),
    "full": ("foundation", "liquid", "silicone", (0, 0, 1), 0.85, {"finish": "matte"}),
    "deeper": ("foundation", "liquid", "silicone", (-6, 1, 1), 0.5, {}),
    "con": ("concealer", "liquid", "silicone", (1, 0, 1), 0.85, {}),
    "deepcon": ("concealer", "liquid", "silicone", (-14, 0, 0), 0.85, {}),
    "light": ("light", "cream", "silicone", (7, 0, 2), 0.6, {"finish": "matte"}),
    "shade": ("shade", "cream", "silicone", (-14, -2, -3), 0.5, {"finish": "matte"}),
    "shadepan": ("shade", "pressed_powder", "powder", (-14, -2, -3), 0.4, {"finish": "matte"}),
    "bronzer": ("bronzer", "cream", "silicone", (-9, 2, 4), 0.4, {"finish": "matte"}),
    "bronzerpan": ("bronzer", "pressed_powder", "powder", (-9, 2, 4), 0.35, {"finish": "matte"}),
    "blush": ("colour", "cream", "silicone", (-7, 17, 2), 0.4, {}),
    "blushpan": ("colour", "pressed_powder", "powder", (-7, 17, 2), 0.35, {"finish": "matte"}),
    "glow": ("glow", "cream", "silicone", (10, 0, 4), 0.3, {"finish": "shimmer"}),
    "glowpan": ("glow", "pressed_powder", "powder", (10, 0, 4), 0.3, {"finish": "shimmer"}),
    "loose": ("setting_powder", "loose_powder", "powder", (5, -2, -3), 0.15, {"finish": "matte"}),
    "palepowder": ("setting_powder", "loose_powder", "powder", (10, -3, 0), 0.2, {"finish": "matte"}),
    "chalk": ("setting_powder", "loose_powder", "powder", (16, -3, 0), 0.2, {"finish": "matte"}),
    "powderfdn": ("powder_foundation", "pressed_powder", "powder", (0, 0, 0), 0.4, {"finish": "matte"}),
    "melt": ("melting_mist", "mist", "water", None, None, {}),
    "hold": ("setting_mist", "mist", "alcohol", None, None, {}),
    "lid": ("lid_base", "cream", "silicone", (2, 0, 1), 0.6, {}),
    "palecon": ("concealer", "liquid", "silicone", (8, 0, 2), 0.85, {}),
    "salmoncon": ("concealer", "cream", "silicone", (0, 16, 10), 0.75, {}),
    "lip": ("colour", "cream", "anhydrous", (-12, 28, 14), 0.6, {}),
    "deepfdn": ("foundation", "liquid", "silicone", (-13, 1, -1), 0.6, {}),
    "palepowderfdn": ("powder_foundation", "pressed_powder", "powder", (6, 0, 0), 0.35, {"finish": "matte"}),
    "facepowder": ("setting_powder", "pressed_powder", "powder", (0, 0, 0), 0.2, {"finish": "matte"}),
    "deeppowder": ("setting_powder", "pressed_powder", "powder", (-8, 1, 1), 0.2, {"finish": "matte"}),
    "balm": ("moisturiser", "balm", "oil", None, None, {"suits": ("dry", "flaking")}),
}
"""What each short name is: role, texture, base, colour away from the skin, cover, and what else is known."""


def item(name: str, skin: Lab) -> Product:
    """A thing of a kit, its colour taken from the sitter's own."""
    role, texture, base, away, cover, more = ITEMS[name]
    lab = (
        None
        if away is None
        else tuple(
            max(5.0, a + b) if place == 0 else a + b for place, (a, b) in enumerate(zip(skin, away, strict=True))
        )
    )
    much = {"g": 10.0} if texture in ("loose_powder", "pressed_powder") else {"ml": 20.0}
    return Product(name, role, name.capitalize(), texture, base, lab=lab, cover=cover, **{**much, **more})


def laid(sequence: Sequence) -> list[str]:
    """The layers of a plan in order, each as "kind" and "kind texture"."""
    kit = {each.id: each for each in sequence.case.kit}
    found = []
    for step in sequence.steps:
        product = kit.get(step.item or "")
        found.append(
            f"{step.kind} {'pan' if product is not None and product.dry else 'cream'}" if product else step.kind
        )
    return found


def there(wanted: str, found: str) -> bool:
    """Whether a layer of a plan is the one wanted: its kind, and its texture where one is named."""
    return found == wanted or (" " not in wanted and found.split(" ", maxsplit=1)[0] == wanted)


def in_order_count(wanted: list[str], found: list[str]) -> int:
    """How many of the wanted layers are there in this order: the longest common run, gaps allowed."""
    table = [[0] * (len(found) + 1) for _ in range(len(wanted) + 1)]
    for i, want in enumerate(wanted):
        for j, have in enumerate(found):
            table[i + 1][j + 1] = table[i][j] + 1 if there(want, have) else max(table[i][j + 1], table[i + 1][j])
    return table[-1][-1]


_DARK_CIRCLES = {zone: {"dark_circle_blue": 2} for zone in UNDER_EYES}
_BROWN_CIRCLES = {zone: {"dark_circle_brown": 2} for zone in UNDER_EYES}
_DEEP_BROWN_CIRCLES = {zone: {"dark_circle_brown": 3} for zone in UNDER_EYES}
_VIOLET_CIRCLES = {zone: {"dark_circle_violet": 3} for zone in UNDER_EYES}
_DRY_UNDER_EYES = {zone: {"dry": 2} for zone in UNDER_EYES}
_MARKED = {"chin": {"active_blemish": 2}, "forehead_centre": {"post_blemish_mark": 2}}
_FLAKING = {**{zone: {"flaking": 2} for zone in CHEEKS}, "chin": {"flaking": 1}}
_RED_CHEEKS = {zone: {"redness": 2} for zone in (*CHEEKS, "nose_side_l", "nose_side_r")}
_BLEMISHES = {"chin": {"active_blemish": 2}, "jaw_l": {"active_blemish": 1, "post_blemish_mark": 2}}
_EYES = {"features": ("brows", "eyes", "lips")}

ORDERS: dict[str, Order] = {
    "thin underpainting by day": Order(
        "underpainted", MEDIUM, "spf dew peach salmon light shade blush glow loose sheer",
        "cleanse, moisturise, sunscreen, correct, light cream, shade cream, foundation, colour cream, glow cream, crease_check, set",
        zones=_DARK_CIRCLES, wish={"cover": "sheer", "finish": "dewy", "setting": "spot"}, options={"glow": "after_colour"}),
    "underpainting, shade first, glow beneath": Order(
        "underpainted", TAN, "salmon orange light shade bronzer blush glow loose sheer",
        "moisturise, correct, bronze cream, shade cream, light cream, glow cream, foundation, colour cream, set",
        zones=_BROWN_CIRCLES, wish={"order": "shade_first", "finish": "dewy", "setting": "spot", "cover": "sheer"},
        options={"glow": "under", "bronzer": "bridge"}),
    "underpainting on oily skin, baked at the points": Order(
        "underpainted", LIGHT, "gel pore matt light shade blushpan glowpan loose hold",
        "cleanse, moisturise, prime, prime, light cream, shade cream, foundation, bake, dust_off, colour pan, setting_mist",
        preset="oily", wish={"setting": "bake_points", "finish": "matte", "wear_hours": 10.0}),
    "everything on top, wide bake, for a camera": Order(
        "overpainted", MEDIUM, "spf pore peach full light shade bronzerpan blushpan glowpan loose melt hold",
        "moisturise, correct, foundation, light cream, shade cream, crease_check, bake, dust_off, bronze pan, colour pan, glow pan, setting_mist",
        zones=_DARK_CIRCLES, wish={"setting": "bake_wide", "viewing": "camera", "cover": "full", "wear_hours": 10.0, "finish": "satin"},
        options={"bronzer": "last", "glow": "last"}),
    "on top in cream, set whole, mist at the end": Order(
        "overpainted", BROWN, "orange red light shade bronzer blush glow loose melt hold",
        "moisturise, correct, foundation, light cream, bronze cream, shade cream, colour cream, glow cream, crease_check, set, melting_mist, setting_mist",
        zones=_BROWN_CIRCLES, wish={"setting": "whole_face", "finish": "dewy", "wear_hours": 10.0},
        options={"bronzer": "bridge", "glow": "after_colour"}),
    "on top with a crisp edge": Order(
        "overpainted", TAN, "light shade blush loose",
        "moisturise, foundation, light cream, shade cream, colour cream, clean_edge, crease_check, set",
        wish={"setting": "spot", "finish": "matte"}, options={"shade_edge": "crisp"}),
    "two shades of foundation on deep skin": Order(
        "two_tone", DARK, "red orange deeper light blush loose",
        "moisturise, correct, foundation, foundation, light cream, colour cream, set",
        zones=_BROWN_CIRCLES, wish={"setting": "spot", "finish": "matte"}),
    "two shades, bronzed and glowing": Order(
        "two_tone", MEDIUM, "deeper light bronzer blush glow loose melt",
        "moisturise, foundation, foundation, light cream, bronze cream, colour cream, glow cream, set, melting_mist",
        preset="dry", wish={"setting": "spot", "finish": "dewy"}, options={"bronzer": "last", "glow": "after_colour"}),
    "led by light on deep dry skin": Order(
        "light_led", DARK, "dew sheer glow blush loose",
        "cleanse, moisturise, prime, foundation, colour cream, glow cream, mute_shine",
        preset="dry", wish={"finish": "dewy", "setting": "none", "cover": "sheer"}),
    "led by light on oily skin, a pan glow last": Order(
        "light_led", TAN, "gel matt glowpan blushpan loose melt hold",
        "moisturise, prime, foundation, set, colour pan, glow pan",
        preset="oily", wish={"finish": "satin", "setting": "t_zone"}),
    "powder sculpting on oily skin": Order(
        "powder_sculpted", LIGHT, "gel pore matt light shadepan bronzerpan blushpan glowpan loose hold",
        "cleanse, moisturise, prime, prime, foundation, light cream, set, shade pan, bronze pan, colour pan, glow pan, setting_mist",
        preset="oily", wish={"setting": "whole_face", "finish": "satin", "wear_hours": 10.0}, options={"bronzer": "last"}),
    "powder sculpting, cleaned with powder, mist between": Order(
        "powder_sculpted", MEDIUM, "light shadepan blushpan glowpan loose melt",
        "moisturise, foundation, light cream, set, shade pan, colour pan, clean_edge pan, dust_off, glow pan",
        wish={"setting": "whole_face", "finish": "satin"}, options={"shade_edge": "crisp"}),
    "powder foundation as a veil over the sculpting": Order(
        "powder_sculpted", TAN, "light shadepan blushpan powderfdn loose",
        "moisturise, foundation, light cream, set, shade pan, colour pan, set pan",
        wish={"setting": "whole_face", "finish": "matte"}, options={"powder_foundation": "veil"}),
    "doubled for the stage": Order(
        "doubled", MEDIUM, "pore full light shade shadepan blush blushpan loose hold",
        "moisturise, foundation, light cream, shade cream, colour cream, set, shade pan, colour pan, setting_mist",
        wish={"setting": "whole_face", "viewing": "stage", "finish": "matte", "wear_hours": 10.0, "cover": "full"}),
    "doubled, glow in cream and nothing wide": Order(
        "doubled", BROWN, "orange light shade shadepan blush blushpan glow loose",
        "moisturise, correct, foundation, light cream, shade cream, colour cream, glow cream, set, shade pan, colour pan",
        zones=_BROWN_CIRCLES, wish={"setting": "spot", "finish": "satin"}, options={"glow": "after_colour"}),
    "mature skin, fed, placed and left soft": Order(
        "underpainted", LIGHT, "eye dew peach light shade blush sheer loose melt",
        "cleanse, moisturise, eye_care, prime, light cream, shade cream, foundation, conceal, colour cream, crease_check, set, melting_mist",
        preset="mature", zones=_DARK_CIRCLES, wish={"setting": "spot", "finish": "satin", "cover": "sheer"}),
    "acne-prone skin, thin base and cover on the spot": Order(
        "overpainted", MEDIUM, "gel matt green light loose shadepan",
        "cleanse, moisturise, prime, foundation, spot_conceal, light cream, set, shade pan",
        preset="acne_prone", zones=_BLEMISHES, wish={"setting": "t_zone", "finish": "matte"}),
    "redness cancelled, then blush all the same": Order(
        "overpainted", LIGHT, "green light blush loose",
        "moisturise, correct, foundation, colour cream, set",
        preset="sensitive", zones=_RED_CHEEKS, wish={"setting": "spot", "finish": "satin"}),
    "brows before, eyes in the bake": Order(
        "overpainted", MEDIUM, "light shade blush loose lid",
        "brows, foundation, light cream, shade cream, bake, eyes, dust_off, lips",
        wish={"setting": "bake_points", "finish": "satin", **_EYES}, options={"brows": "before_base", "eyes": "in_wait"}),
    "a deep concealer as shade, a bronzer as warmth": Order(
        "overpainted", TAN, "deepcon light bronzerpan blushpan loose",
        "moisturise, foundation, light cream, shade cream, set, bronze pan, colour pan",
        wish={"setting": "spot", "finish": "matte"}, options={"bronzer": "last"}),
    "a bronzer as the only sculpt": Order(
        "powder_sculpted", MEDIUM, "light bronzerpan blushpan loose",
        "moisturise, foundation, light cream, set, shade pan, colour pan",
        wish={"setting": "spot", "finish": "matte"}),
    "powder over the lift that does not darken it": Order(
        "overpainted", BROWN, "light shade blush loose palepowder",
        "moisturise, foundation, light cream, shade cream, colour cream, crease_check, set",
        wish={"setting": "on_light", "finish": "satin"}),
    "toned, fed and primed in three places": Order(
        "overpainted", MEDIUM, "toner gel pore matt dew light shade blush loose",
        "cleanse, moisturise, moisturise, prime, prime, prime, foundation, light cream, shade cream, colour cream, set",
        preset="combination", wish={"setting": "t_zone", "finish": "satin"},
        zones={"cheek_apple_l": {"dry": 2}, "cheek_apple_r": {"dry": 2}, "nose_tip": {"enlarged_pores": 2}}),
    "a glow stirred into the base": Order(
        "overpainted", TAN, "dew glow light blush loose",
        "moisturise, glow cream, foundation, light cream, colour cream",
        preset="dry", wish={"setting": "none", "finish": "dewy"}, options={"glow": "mixed"}),
    "a bronzer pan as the sculpt of oily dark skin": Order(
        "powder_sculpted", DARK, "gel matt bronzerpan blushpan facepowder loose hold",
        "cleanse, moisturise, prime, foundation, set, shade pan, colour pan, setting_mist",
        preset="oily", wish={"setting": "whole_face", "finish": "matte", "wear_hours": 10.0}),
    "doubled for a camera, bronzed, two powders": Order(
        "doubled", TAN, "light shade shadepan bronzerpan blush blushpan loose deeppowder melt hold",
        "moisturise, foundation, light cream, shade cream, colour cream, crease_check, set, shade pan, bronze pan, colour pan, setting_mist",
        wish={"setting": "whole_face", "viewing": "camera", "finish": "matte", "wear_hours": 10.0}, options={"bronzer": "last"}),
    "led by light on dry brown skin": Order(
        "light_led", BROWN, "eye dew glow glowpan melt palepowder",
        "moisturise, eye_care, prime, foundation, glow cream, mute_shine",
        preset="dry", zones=_DRY_UNDER_EYES, wish={"finish": "dewy", "setting": "none"}),
    "a pale concealer as the light of two shades": Order(
        "two_tone", MEDIUM, "deeper palecon blush loose",
        "moisturise, foundation, foundation, light cream, colour cream, set", wish={"setting": "spot", "finish": "satin"}),
    "blemishes and marks, set whole and held": Order(
        "overpainted", TAN, "gel matt green bronzer blushpan loose hold",
        "cleanse, moisturise, prime, foundation, spot_conceal, set, setting_mist",
        preset="acne_prone", zones=_MARKED, wish={"setting": "whole_face", "finish": "matte", "wear_hours": 9.0},
        options={"bronzer": "last"}),
    "underpainted with a bronzer and a pale concealer": Order(
        "underpainted", MEDIUM, "bronzer palecon blush loose sheer",
        "moisturise, light cream, shade cream, foundation, colour cream, set",
        wish={"cover": "sheer", "finish": "dewy", "setting": "spot"}),
    "a deep foundation as shade": Order(
        "overpainted", LIGHT, "deepfdn palecon blush loose",
        "moisturise, foundation, light cream, shade cream, colour cream, set", wish={"setting": "on_light", "finish": "satin"}),
    "a salmon concealer as corrector": Order(
        "overpainted", MEDIUM, "salmoncon light blush loose",
        "moisturise, correct, foundation, light cream, colour cream, set",
        zones=_VIOLET_CIRCLES, wish={"setting": "spot", "finish": "satin"}),
    "a pale powder foundation sets": Order(
        "powder_sculpted", TAN, "light shadepan blushpan palepowderfdn",
        "moisturise, foundation, light cream, set pan, shade pan, colour pan", wish={"setting": "whole_face", "finish": "matte"}),
    "red beneath a sheer base on dark skin": Order(
        "light_led", DARK, "orange red dew sheer glow blush loose",
        "moisturise, prime, correct, foundation, colour cream, glow cream",
        preset="dry", zones=_DEEP_BROWN_CIRCLES, wish={"cover": "sheer", "finish": "dewy", "setting": "none"}),
    "a lip colour as blush": Order(
        "overpainted", BROWN, "lip light shade loose",
        "moisturise, foundation, light cream, shade cream, colour cream, set", wish={"setting": "spot", "finish": "satin"}),
    "a melting mist before the glow": Order(
        "powder_sculpted", LIGHT, "light shadepan blushpan glowpan loose melt",
        "moisturise, foundation, light cream, set, shade pan, colour pan, melting_mist, glow pan",
        wish={"setting": "whole_face", "finish": "satin"}, options={"melting_mist": "before_glow"}),
    "eyes first, brows last": Order(
        "overpainted", MEDIUM, "light shade blush loose lid",
        "moisturise, eyes, foundation, light cream, shade cream, colour cream, set, brows",
        wish={"setting": "spot", "finish": "satin", **_EYES}, options={"eyes": "before_base", "brows": "last"}),
    "flaking skin, left dewy": Order(
        "underpainted", MEDIUM, "balm eye dew peach light shade blush glow melt",
        "moisturise, eye_care, prime, light cream, shade cream, foundation, colour cream",
        preset="dry", zones=_FLAKING, wish={"finish": "dewy", "setting": "none", "cover": "sheer"}),
}  # fmt: skip
