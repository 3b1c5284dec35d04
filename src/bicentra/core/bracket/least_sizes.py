"""Sizes below which nobody builds, asked until strength is computed: bolts, plate, and the metal round a bolt in lug and ear.

The limits count in diameters of the bolt. They are common practice, no strength: what meets them is not proven to hold.
"""

from bicentra.core.base.finding import Check, Finding, Verdict, worst_check
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.wording import LengthFormat, make_check, missing_names
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.holes import PlacedJoint
from bicentra.core.bracket.metal_checks import chosen_bolts
from bicentra.core.parts.limits import limit_for, limit_in_mm


def least_sizes(assembly: Assembly, lengths: LengthFormat) -> Finding:
    """Bolts thick enough, the bracket thick enough for them, bosses and ears wide enough round them."""
    checks = tuple(check for placed in assembly.joints for check in _checks(assembly, placed, lengths))
    checks += tuple(
        make_check(f"Bolts at the {group}s", UNKNOWN, limit_for(assembly.job, "bolt-size"), "")
        for group in assembly.unchosen
    )
    if not checks:
        checks = (make_check("Bolts", UNKNOWN, limit_for(assembly.job, "bolt-size"), ""),)
    decides = worst_check(checks)
    why = f"{decides.text}. No strength is computed yet: this is the least that is built, not proof that it holds."
    if decides.verdict is Verdict.OK:
        why = "Bolts, plate and bosses are not below what is usually built; no strength is computed yet."
    if decides.verdict is Verdict.UNKNOWN:
        why = f"Still unknown: {_missing(assembly)}."
    return Finding(
        "least-sizes", decides.verdict, decides.value, decides.limit, decides.unit, why,
        features=("bracket", "bolts"), checks=checks, source=limit_for(assembly.job, "bolt-size").source,
    )  # fmt: skip


def _missing(assembly: Assembly) -> str:
    job = assembly.job
    return (
        missing_names(
            **chosen_bolts(assembly),
            boss_of_every_lug=0.0 if all(lug.boss_mm is not None for lug in job.knuckle.lugs) else None,
            ear_boss=job.caliper.ear_boss_mm,
        )
        or "the plate's thickness is unknown"
    )


def _checks(assembly: Assembly, placed: PlacedJoint, lengths: LengthFormat) -> tuple[Check, ...]:
    job, major = assembly.job, placed.joint.thread.major
    group, index = placed.at, placed.index
    name = f"{placed.name[0].upper()}{placed.name[1:]}"
    boss = known(job.caliper.ear_boss_mm if group == "ear" else job.knuckle.lugs[index].boss_mm)
    metal = assembly.stack_up.metal_at_ears if group == "ear" else assembly.stack_up.thickness
    wall = (boss - major) / 2
    part = "an ear" if group == "ear" else "a lug"
    return (
        make_check(name, major, limit_for(job, "bolt-size"), f"{name}: {placed.joint.thread.name} is {lengths.size(major)} thick"),
        make_check(f"{name}, metal clamped", metal, limit_in_mm(job, "plate-thickness", major),
                   f"{name}: {lengths.size(metal)} of bracket for a bolt of {lengths.size(major)}"),
        make_check(f"{name}, boss", wall, limit_in_mm(job, "boss-metal", major),
                   f"{name}: {lengths.gap(wall) if is_known(wall) and wall >= 0 else 'no metal'} round it in {part} of "
                   f"{lengths.size(boss)}"),
    )  # fmt: skip
