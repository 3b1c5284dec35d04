"""The tables of the parts bench as rich text."""

import math
from html import escape

from bicentra.app.part_dialog import difference_row, money_word
from bicentra.app.widgets.rich_text import against_list, heads, row
from bicentra.core.base.finding import Verdict
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.views.parts import PartSet
from bicentra.core.heat.effects import Effects
from bicentra.core.parts.weights import Weights
from bicentra.study.desks.parts import SetTrial, set_differences

WORDS = {
    "rotor": "Rotor",
    "caliper": "Caliper",
    "wheel": "Wheel",
    "other": "Plate, or what else came off",
    "total": "Corner",
}
MOST_AGAINST = 3


def change_of(lengths: LengthFormat, value_kg: float) -> str:
    """Return a difference of masses for reading, with its sign."""
    if not math.isfinite(value_kg):
        return "unknown"
    return ("+" if value_kg > 0 else "−" if value_kg < 0 else "") + lengths.mass(abs(value_kg))


def weights_table(left: Weights, right: Weights, lengths: LengthFormat) -> str:
    """Return both corners' masses, what changes unsprung, and what is left to spin up."""
    rows = []
    for name, word in WORDS.items():
        one, other = getattr(left, name), getattr(right, name)
        if one or other:  # a wheel that nobody has weighs nothing, and says nothing
            rows.append(row(word, lengths.mass(one), lengths.mass(other), change_of(lengths, other - one)))
    spin = [f"{value * 1e3:.1f} g·m²" if math.isfinite(value) else "unknown" for value in (left.spin, right.spin)]
    change = ""
    if math.isfinite(left.spin) and left.spin > 0 and math.isfinite(right.spin):
        change = f"{(right.spin / left.spin - 1) * 100:+.0f} %".replace("-", "−")
    rows.append(row("Rotor to spin up", *spin, change))
    return f"<table><tr>{heads('Weights', 'above', 'below', 'change')}</tr>{''.join(rows)}</table>"


def differences_table(left: PartSet, right: PartSet, lengths: LengthFormat) -> str:
    """Return what differs, part by part."""
    text = []
    for kind, found in set_differences(left, right):
        rows = "".join(difference_row(d, lengths) for d in found if d.path != "name") or row("the same", "", "", "")
        names = " → ".join(dict.fromkeys(getattr(part_set, kind).name or "no name" for part_set in (left, right)))
        head = heads(WORDS[kind], "above", "below", "difference")
        text.append(f"<p style='margin:10px 0 2px 0'>{escape(names)}</p><table><tr>{head}</tr>{rows}</table>")
    return "".join(text) or "<p>Nothing to compare: one side has no parts noted.</p>"


def price_line(prices: tuple[tuple[str, float, str], ...], currency: str) -> str:
    """Return what the parts cost, summed where the currency is one; ``currency``: what the user calls their own."""
    if not prices:
        return ""
    listed = ", ".join(f"{WORDS[kind].lower()} {price:g}" for kind, price, _ in prices)
    units = {unit for _, _, unit in prices}
    money = escape(money_word(next(iter(units)), currency))
    total = f": {sum(price for _, price, _ in prices):g} {money}".rstrip() + " in all" if len(units) == 1 else ""
    return f"<p>In the library{total} ({escape(listed)}).</p>"


def trial_head(trial: SetTrial) -> str:
    """Return how the parts fit where they stand, in one line."""
    clock = trial.job.fit.clock_deg
    where = f"At {clock:g}°, with" if clock is not None else "With"
    return f"<p><b>{where} the plate and bolts of the job: {trial.verdict.word}.</b></p>"


def effects_text(effects: Effects | None, lengths: LengthFormat) -> str:
    """Return what a set does to the whole vehicle, and what of pedal and heat speaks against it; empty where nothing is known."""
    if effects is None:
        return ""
    text = [effects.share_text]
    if math.isfinite(effects.foot):
        text.append(f"{lengths.force(effects.foot)} at the pedal for 6.43 m/s²")
    if math.isfinite(effects.peak):
        text.append(f"its rotor peaks at {lengths.heat(effects.peak)} in town")
    if math.isfinite(effects.mass):
        text.append(f"{lengths.mass(effects.mass)} to spin")
    if text[0] and math.isfinite(effects.mu):
        text.append(f"with pads of friction {effects.mu:g} as this axle has them")
    line = ", ".join(part for part in text if part)
    head = f"<p><b>On this vehicle:</b> {escape(line)}.</p>" if line else ""
    against = tuple(f for f in effects.findings if f.verdict in (Verdict.STOP, Verdict.UNKNOWN))
    return head + against_list(against[:MOST_AGAINST])
