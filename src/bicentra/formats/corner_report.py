"""Answers of the commands about one corner, each as one JSON object and in plain lines: check, families, redrill, search."""

import math
from typing import Any

from bicentra.core.base.numbers import is_known, or_none
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import LengthFormat, units_of
from bicentra.core.bracket.model import Bore, MadePart
from bicentra.core.evaluation.bracket_evaluation import BracketEvaluation
from bicentra.core.evaluation.solution import Solution
from bicentra.core.lineup.redrill import LIGAMENT, WARNING, Redrill, redrill_text
from bicentra.core.search.run import BY_PLAY, FoundSet
from bicentra.formats.finding_report import finding_line, finding_object


def check_object(solution: Solution) -> dict[str, Any]:
    """Return the object that ``check --json`` prints; what is unknown is null."""
    line, stack_up = solution.line, solution.assembly.stack_up
    return {
        "lineup": {
            "rotor_midplane_z_mm": or_none(line.rotor_midplane_z),
            "hat_outer_z_mm": or_none(line.hat_outer_z),
            **({"radial_seat_radius_mm": or_none(line.radial_seat)} if solution.job.caliper.mount == "radial" else {}),
            "pad_top_radius_mm": or_none(line.pad_top_radius),
            "ear_line_radius_mm": or_none(line.ear_line_radius),
            "ear_face_z_mm": or_none(line.ear_face_z),
            "axial_offset_mm": [or_none(value) for value in line.axial_offset],
            "ears": [{"x_mm": or_none(x), "y_mm": or_none(y), "z_mm": or_none(z)} for x, y, z in line.ears],
            "tip_gap_mm": or_none(line.tip_gap),
            "tip_gap_hot_mm": or_none(line.tip_gap_hot),
            "slot_gap_each_side_mm": or_none(line.slot_gap),
            "min_ligament_mm": or_none(_least_ligament(solution)),
            "effective_radius_mm": or_none(line.pad.effective_radius),
            "track_change_mm": or_none(line.track_change),
            "pad_area_off_rotor_mm2": or_none(line.pad.off),
            "axial_error_mm": [or_none(value) for value in stack_up.errors],
        },
        "bracket": {
            "family": solution.bracket.family,
            "feasible": solution.feasible,
            "thickness_mm": or_none(stack_up.thickness),
            "shims_mm": [or_none(value) for value in stack_up.shims],
            "mass_kg": or_none(solution.mass_kg),
            "fault": solution.bracket.fault or None,
        },
        "bolts": [
            {
                "name": placed.name,
                "thread": placed.joint.thread.name,
                "length_mm": or_none(placed.joint.length),
                "grip_mm": or_none(placed.joint.grip),
                "engagement_mm": or_none(placed.joint.engagement),
                "protrusion_mm": or_none(placed.joint.protrusion),
                "washers": placed.joint.stack.washers,
            }
            for placed in solution.assembly.joints
        ],
        "findings": [finding_object(finding) for finding in solution.findings],
        "uncertainty": {name: or_none(sd) for name, sd in solution.spread.items()},
    }


def _least_ligament(solution: Solution) -> float:
    return next((f.value for f in solution.findings if kind_of(f.id).ligament), math.nan)


def figures(solution: Solution) -> tuple[tuple[str, str], ...]:
    """Return the line-up's figures as (name, value with unit) pairs for people, in the job's units, ± for 95 %."""
    lengths, line, stack_up = (
        solution.job.lengths,
        solution.line,
        solution.assembly.stack_up,
    )

    def text(value: str, name: str) -> str:
        """Add the 95 % uncertainty of a figure, where a survey gives one that shows."""
        sd = solution.spread.get(name, math.nan)
        return f"{value} ± {lengths.gap(1.96 * sd)}" if sd > 5e-4 else value

    sds = [solution.spread.get(f"axial_offset_mm[{k}]", math.nan) for k in range(len(line.axial_offset))]
    worst = max((k for k, sd in enumerate(sds) if sd == sd), key=lambda k: sds[k], default=0)
    offsets = text(", ".join(lengths.size(value) for value in line.axial_offset), f"axial_offset_mm[{worst}]")
    tip = f"{text(lengths.gap(line.tip_gap), 'tip_gap_mm')} / {lengths.gap(line.tip_gap_hot)}"
    return (
        ("Clock angle", f"{line.clock:.2f}°" if math.isfinite(line.clock) else "unknown"),
        ("Rotor mid-plane, from hub face", text(lengths.size(line.rotor_midplane_z), "rotor_midplane_z_mm")),
        ("Pad top radius", text(lengths.size(line.pad_top_radius), "pad_top_radius_mm")),
        ("Ear line radius", text(lengths.size(line.ear_line_radius), "ear_line_radius_mm")),
        ("Ear face, from hub face", text(lengths.size(line.ear_face_z), "ear_face_z_mm")),
        ("Axial offset at each lug", offsets),
        ("Tip gap cold / hot", tip),
        ("Slot gap at each face", text(lengths.gap(line.slot_gap), "slot_gap_each_side_mm")),
        ("Effective radius", text(lengths.size(line.pad.effective_radius), "effective_radius_mm")),
        ("Track change over the axle", lengths.gap(line.track_change)),
        ("Plate thickness", lengths.size(stack_up.thickness)),
        ("Shims at each lug", ", ".join(lengths.gap(value) for value in stack_up.shims)),
        ("Plate mass", lengths.mass(solution.mass_kg)),
    )


def check_text(solution: Solution) -> str:
    """Return the line-up and every finding as plain lines, worst first."""
    job = solution.job
    lines = [
        job.title or "Untitled job",
        f"{job.corner}: {job.caliper.name or 'caliper'} on {job.rotor.name or 'rotor'}",
        "",
    ]
    lines += [f"  {name:<32} {value}" for name, value in figures(solution)]
    lines.append("")
    for finding in solution.findings:
        lines.append(f"  {finding_line(finding)}")
        if finding.statement:
            lines.append(f"             {finding.statement}")
        lines += [f"             to fix it: {remedy.action}" for remedy in finding.remedies]
    return "\n".join(lines) + "\n"


def families_object(options: tuple[BracketEvaluation, ...], own: BracketEvaluation) -> dict[str, Any]:
    """Return every family with its solved numbers, suited ones first, and the job's ``own`` bracket as it stands."""
    return {"families": [_family(proposal) for proposal in options], "taken": _family(own)}


def _family(proposal: BracketEvaluation) -> dict[str, Any]:
    (id, room), bracket = proposal.margin, proposal.bracket
    return {
        "family": bracket.family,
        "title": proposal.title,
        "suited": proposal.verdict.value,
        "why": proposal.why,
        "needs": list(bracket.needs),
        "thickness_mm": or_none(bracket.thickness),
        "mass_kg": or_none(bracket.mass_kg),
        "made_parts": bracket.made,
        "processes": list(bracket.processes),
        "reversible": bracket.reversible,
        "smallest_margin": {"id": id or None, "room": or_none(room)},
        "solved": {name: or_none(value) for name, value in bracket.solved.items()},
        "parts": [_part(part) for part in bracket.parts],
        "findings": [finding_object(finding) for finding in proposal.findings],
    }  # fmt: skip


def _bore(bore: Bore) -> dict[str, Any]:
    return {
        "name": bore.name,
        "x_mm": bore.centre[0],
        "y_mm": bore.centre[1],
        "drill_mm": bore.drill,
        "work": bore.note,
    }


def _part(part: MadePart) -> dict[str, Any]:
    return {
        "name": part.name, "shape": part.shape, "count": part.count, "material": part.material or None,
        "thickness_mm": or_none(part.thickness), "volume_mm3": or_none(part.volume), "mass_kg": or_none(part.mass_kg),
        "outer_mm": or_none(part.outer), "inner_mm": or_none(part.inner), "eccentricity_mm": part.offset or None,
        "bores": [_bore(bore) for bore in part.bores],
        "bends": [{"angle_deg": bend.angle, "radius_mm": bend.radius, "up": bend.up} for bend in part.bends],
        "pockets": [{"depth_mm": pocket.depth, "face": "outboard" if pocket.face > 0 else "inboard"} for pocket in part.pockets],
    }  # fmt: skip


def families_text(options: tuple[BracketEvaluation, ...], own: BracketEvaluation, units: str) -> str:
    """Return the same in lines."""
    lengths = LengthFormat(units_of(units))
    lines = [f"The job's own: {own.title}, {own.verdict.word}", ""]
    for proposal in options:
        head = f"{proposal.verdict.word:9s} {proposal.title}"
        bracket = proposal.bracket
        if bracket.parts:
            mass = lengths.mass(bracket.mass_kg) if math.isfinite(bracket.mass_kg) else "mass unknown"
            head += f": {lengths.size(bracket.thickness)}, {mass}, {bracket.made} made, {', '.join(bracket.processes)}"
            head += "" if bracket.reversible else "; cuts or welds, permanent"
        lines += [head, f"          {proposal.why}"]
    lines.append("Brakes can kill: have the design and the finished work checked by someone qualified.")
    return "\n".join(lines) + "\n"


def redrill_object(plan: Redrill) -> dict[str, Any]:
    """Return what ``redrill --json`` prints; pairs are (old hole, new hole), counted from 0."""
    return {
        "clock_deg": plan.clock_deg,
        "min_ligament_mm": or_none(plan.ligament),
        "shared": [list(pair) for pair in plan.shared],
        "overlaps": [list(pair) for pair in plan.overlaps],
        "verdict": plan.verdict.value,
        "limit_mm": LIGAMENT.stop,
        "edge_to_bore_mm": or_none(plan.edge_inner),
        "edge_to_rim_mm": or_none(plan.edge_outer),
        "imbalance_g_mm": or_none(plan.imbalance),
        "why": redrill_text(plan),
        "caution": WARNING,
    }


def search_object(combinations: int, seconds: float, sets: list[FoundSet]) -> dict[str, Any]:
    """Return the object that ``search --json`` prints, best sets first."""
    return {"combinations": combinations, "seconds": round(seconds, 3), "sets": [_set(found) for found in sets]}


def _set(found: FoundSet) -> dict[str, Any]:
    job = found.job
    return {
        "rotor": job.rotor.name,
        "caliper": job.caliper.name,
        "clock_deg": job.fit.clock_deg,
        "rotor_spacer_mm": job.fit.rotor_spacer_mm,
        "side": job.bracket.side,
        "verdict": found.verdict.value,
        "score": round(found.score, 4),
        "decides": found.decides or None,
        "by_play": found.by_play,
        "short_mm": or_none(round(found.short, 6)),
        "tip_gap_mm": or_none(found.tip_gap),
        "axial_error_mm": or_none(round(found.axial_error, 6)),
        "thickness_mm": or_none(found.thickness),
        "angles": found.open_angles if found.feasible else 0,
    }


def search_text(combinations: int, seconds: float, sets: list[FoundSet], units: str) -> str:
    """Return the same in lines."""
    lengths = LengthFormat(units_of(units))
    lines = [f"{combinations} combinations looked at in {seconds:.1f} s, every clock angle counted."]
    for place, found in enumerate(sets, 1):
        text = f"{place:3d}. {found.verdict.word:9s} {found.score:.2f}  {found.name}"
        if found.feasible:
            text += f", plate {lengths.size(found.thickness)}, tip gap {lengths.gap(found.tip_gap)}"
        if found.decides:
            more = (
                f", {BY_PLAY}"
                if found.by_play
                else f", short by {lengths.gap(found.short)}"
                if is_known(found.short)
                else ""
            )
            text += f" ({found.decides}{more})"
        lines.append(text)
    if not sets:
        lines.append("No set came out: no rotor or no caliper in the library is as asked.")
    lines.append("Brakes can kill: have the choice and the finished work checked by someone qualified.")
    return "\n".join(lines) + "\n"
