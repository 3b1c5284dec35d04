"""The line-up's figures as one flat table of numbers, named as in the report of ``check``."""

from bicentra.core.solution import Solution


def figure_values(solution: Solution) -> dict[str, float]:
    """Return every figure of the line-up by its name; unknown ones are nan."""
    line = solution.line
    found = {
        "rotor_midplane_z_mm": line.rotor_midplane_z,
        "hat_outer_z_mm": line.hat_outer_z,
        "pad_top_radius_mm": line.pad_top_radius,
        "ear_line_radius_mm": line.ear_line_radius,
        "ear_face_z_mm": line.ear_face_z,
        "tip_gap_mm": line.tip_gap,
        "tip_gap_hot_mm": line.tip_gap_hot,
        "slot_gap_each_side_mm": line.slot_gap,
        "effective_radius_mm": line.pad.effective_radius,
        "pad_area_off_rotor_mm2": line.pad.off,
    }
    found.update({f"axial_offset_mm[{k}]": value for k, value in enumerate(line.axial_offset)})
    found.update({f"axial_error_mm[{k}]": value for k, value in enumerate(solution.assembly.stack_up.errors)})
    for k, ear in enumerate(line.ears):
        found.update({f"ears[{k}].{axis}_mm": value for axis, value in zip("xyz", ear)})
    return found
