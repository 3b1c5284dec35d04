"""The answer of ``bicentra check``: one JSON object for programs, plain lines for people."""

import math
from typing import Any

from bicentra.core.base.finding import Finding, Remedy
from bicentra.core.base.numbers import or_none
from bicentra.core.base.registry import kind_of
from bicentra.core.solution import Solution


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
        "findings": [_finding(finding) for finding in solution.findings],
        "uncertainty": {name: or_none(sd) for name, sd in solution.spread.items()},
    }


def _least_ligament(solution: Solution) -> float:
    return next((f.value for f in solution.findings if kind_of(f.id).ligament), math.nan)


def _finding(finding: Finding) -> dict[str, Any]:
    return {
        "id": finding.id,
        "verdict": finding.verdict.value,
        "value": or_none(finding.value),
        "limit": or_none(finding.limit),
        "unit": finding.unit,
        "why": finding.why,
        "remedies": [_remedy(remedy) for remedy in finding.remedies],
        "details": [
            {
                "label": c.label,
                "verdict": c.verdict.value,
                "value": or_none(c.value),
                "limit": or_none(c.limit),
                "unit": c.unit,
            }
            for c in finding.checks
        ],
        "source": finding.source,
        "sd": or_none(finding.sd),
        "probability": or_none(finding.probability),
        "band": None if finding.band is None else list(finding.band),
        "statement": finding.statement,
    }


def _remedy(remedy: Remedy) -> dict[str, Any]:
    return {
        "action": remedy.action,
        "amount_mm": remedy.amount_mm,
        "reversible": remedy.reversible,
        "side_effects": list(remedy.side_effects),
    }


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
        lines.append(f"  {finding.verdict.word:<10} {finding.title}: {finding.why}")
        if finding.statement:
            lines.append(f"             {finding.statement}")
        lines += [f"             to fix it: {remedy.action}" for remedy in finding.remedies]
    return "\n".join(lines) + "\n"
