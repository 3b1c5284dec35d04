"""The chain from pedal to road drawn as a machine: levers and bores to one scale, each station with its number to type over."""

import math
from collections.abc import Callable

from bicentra.core.base.numbers import first_known, is_known, known
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.model import Drawing, Handle, Note, Sheet, Text, framed
from bicentra.core.hydraulics.chain import Chain, PedalState
from bicentra.core.hydraulics.ends import End
from bicentra.core.hydraulics.travel import Travel
from bicentra.core.parts.vehicle import Axle, Vehicle

PAD_MM, BORE_MM, LEFT, TOP, LINE_MM, ROWS_MM = 240.0, 20.0, 30.0, 150.0, 110.0, (78.0, -52.0)
"""What is drawn, dashed, while lengths are unknown [mm]; where the pedal's pivot and the master lie, and how high the two ends."""
BORE_STEP, HANDLE_MM, TEXT_MM = 0.1, 12.0, 36.0
SPARE = (0.0, TOP - PAD_MM - 22.0, 470.0, TOP + 10.0)


def chain_view(
    vehicle: Vehicle,
    chain: Chain,
    state: PedalState,
    travel: Travel,
    lengths: LengthFormat,
    earlier: Vehicle | None = None,
) -> Drawing:
    """Return the machine at one foot force: the pedal with its lever, the master's bore, every piston as large as it
    is; ``earlier``: the vehicle as it was, drawn dotted behind where it differs.
    """
    sheet = Sheet()
    rod_y = _pedal(sheet, vehicle, chain, state, lengths)
    master_x = LEFT + 110.0
    if earlier is not None:
        _stock(sheet, vehicle, earlier, (master_x, rod_y), lengths)
    _master(sheet, vehicle, travel, (master_x, rod_y), lengths)
    for place, (end, y) in enumerate(zip(chain.ends, ROWS_MM)):
        turn = master_x + LINE_MM
        bends = ((master_x + 40.0, rod_y), (turn, rod_y - 8.0 * place), (turn, y), (turn + 20.0, y))
        sheet.line(bends, ("rotor", "knuckle")[place], "line")
        _end(sheet, vehicle.axles.get(end.name, Axle()), end, place, state, (master_x + LINE_MM + 30.0, y), lengths)
    x0, y0, x1, y1 = SPARE
    boxes = [shape.bounds for shape in sheet.shapes]  # a long pedal or many pistons need more paper than usual
    return framed(sheet, (x0, min(y0, *(b[1] - 6.0 for b in boxes)), max(x1, *(b[2] + 110.0 for b in boxes)), y1))


def _stock(sheet: Sheet, vehicle: Vehicle, earlier: Vehicle, at: tuple[float, float], lengths: LengthFormat) -> None:
    """What came off: the old master's bore and each end's old pistons about the same middles, dotted, where they were others."""
    old, (x, y) = earlier.vehicle.master, at
    if old.bore_mm is not None and old.bore_mm != vehicle.vehicle.master.bore_mm:
        sheet.box(x + 4.0, y - old.bore_mm / 2, x + 36.0, y + old.bore_mm / 2, "example", "stock", "hidden")
    for name, row in zip(("front", "rear"), ROWS_MM):
        was, now = (_bores(one.axles.get(name, Axle())) for one in (earlier, vehicle))
        if was == now or not was:
            continue
        left = x + LINE_MM + 30.0
        for bore in was:
            sheet.circle((left + bore / 2, row), bore / 2, "example", f"stock-{name}", False, "hidden")
            left += bore + 6.0
        drum = earlier.axles[name].drum is not None
        text = f"before: {'drum cylinder' if drum else 'pistons'} {', '.join(lengths.size(bore) for bore in was)}"
        right = max(left, x + LINE_MM + 30.0 + sum(now) + 6.0 * len(now)) + HANDLE_MM
        sheet.texts.append(Text((right, row), text, "text", f"stock-{name}", 9.0, "start", rise=4.0))


def _bores(axle: Axle) -> tuple[float, ...]:
    """Return the bores that clamp one pad, or a drum's cylinder [mm]."""
    if axle.drum is not None:
        return (axle.drum.cylinder_bore_mm,) if axle.drum.cylinder_bore_mm is not None else ()
    caliper = axle.caliper
    return (*caliper.pistons_inboard_mm, *(caliper.pistons_outboard_mm if caliper.action == "floating" else ()))


def _pedal(sheet: Sheet, vehicle: Vehicle, chain: Chain, state: PedalState, lengths: LengthFormat) -> float:
    """Draw the lever, to scale where its lengths are known; returns how high the push rod lies [mm]."""
    pedal = vehicle.vehicle.pedal
    long = first_known(pedal.pivot_to_pad_mm, PAD_MM)
    ratio = chain.ratio if is_known(chain.ratio) and chain.ratio > 1.0 else 5.0
    rod, line = long / ratio, "solid" if pedal.pivot_to_pad_mm is not None else "hidden"
    sheet.circle((LEFT, TOP), 5.0, "bolt", "pedal")
    sheet.polygon(
        ((LEFT - 4, TOP), (LEFT + 4, TOP), (LEFT + 4, TOP - long), (LEFT - 4, TOP - long)), "made", "pedal", line=line
    )
    sheet.box(LEFT - 16, TOP - long - 6, LEFT - 2, TOP - long + 26, "caliper", "pedal")
    sheet.line(((LEFT + 4, TOP - rod), (LEFT + 110.0, TOP - rod)), "bolt", "rod")
    if is_known(chain.ratio):
        said = pedal.ratio is not None
        path, gain = ("vehicle.pedal.ratio", -long / rod**2) if said else ("vehicle.pedal.pivot_to_rod_mm", 1.0)
        step, measure = (0.05, "number") if said else (0.5, "length")
        at = (LEFT, TOP - rod)
        sheet.handle(Handle("pivot to push rod", at, (0.0, -1.0), path, gain, step, tag="pedal", measure=measure))
    text = f"ratio {chain.ratio:.2f}" if is_known(chain.ratio) else "ratio ____"
    sheet.note(
        Note(
            (LEFT, TOP - rod / 2),
            text,
            "pedal",
            0,
            "vehicle.pedal.ratio",
            prefer=(-1.0, 0.4),
            example=not is_known(chain.ratio),
        )
    )
    foot = f"foot {lengths.force(state.foot)}{'' if is_known(state.decel) else ', for example'}"
    sheet.note(Note((LEFT - 9, TOP - long + 10), foot, "foot", 0, "foot", prefer=(1.0, -0.4)))
    return TOP - rod


def _master(sheet: Sheet, vehicle: Vehicle, travel: Travel, at: tuple[float, float], lengths: LengthFormat) -> None:
    master = vehicle.vehicle.master
    bore = first_known(master.bore_mm, BORE_MM)
    x, y = at
    line = "solid" if master.bore_mm is not None else "hidden"
    sheet.box(x, y - bore / 2 - 5.0, x + 40.0, y + bore / 2 + 5.0, "knuckle", "master", line)
    sheet.box(x + 4.0, y - bore / 2, x + 36.0, y + bore / 2, "caliper", "master", line)
    if master.bore_mm is not None:
        top = (x + 20.0, y + bore / 2 + HANDLE_MM)
        sheet.handle(
            Handle("bore of the master", top, (0.0, 1.0), "vehicle.master.bore_mm", 2.0, BORE_STEP, tag="master")
        )
    text = f"master {lengths.size(bore)}" if master.bore_mm is not None else "master ____"
    sheet.note(
        Note(
            (x + 20.0, y + bore / 2 + 5.0),
            text,
            "master",
            0,
            "vehicle.master.bore_mm",
            prefer=(0.6, 1.0),
            example=master.bore_mm is None,
        )
    )
    if is_known(travel.stroke):
        share = f", {travel.share * 100:.0f} % of its stroke" if is_known(travel.share) else ""
        sheet.note(
            Note(
                (x + 30.0, y - bore / 2),
                f"{lengths.size(round(travel.stroke, 1))} to the bite{share}",
                "master",
                1,
                prefer=(0.2, -1.0),
            )
        )
    kind, valve = vehicle.vehicle.booster.kind, vehicle.vehicle.valve
    if kind != "none":
        sheet.circle((x - 34.0, y), 26.0, "shim", "booster")
        sheet.note(
            Note(
                (x - 34.0, y + 26.0),
                f"booster × {vehicle.vehicle.booster.gain:g}"
                if vehicle.vehicle.booster.gain
                else "booster, gain unknown",
                "booster",
                1,
                "vehicle.booster.gain",
            )
        )
    if valve.kind in ("fixed", "adjustable"):
        knee = f"valve: knee {lengths.pressure(known(valve.knee_bar))}, slope {known(valve.slope):g}"
        sheet.note(
            Note((x + LINE_MM, sum(ROWS_MM) / 2), knee, "valve", 0, "vehicle.valve.knee_bar", prefer=(-1.0, 0.0))
        )


def _end(
    sheet: Sheet, axle: Axle, end: End, place: int, state: PedalState, at: tuple[float, float], lengths: LengthFormat
) -> None:
    """Draw the pistons of one wheel's brake as large as they are, and say what it does."""
    x, y = at
    bores = [*axle.caliper.pistons_inboard_mm]
    if end.floating:
        bores += axle.caliper.pistons_outboard_mm
    if end.kind == "drum":
        bores = [first_known(axle.drum.cylinder_bore_mm if axle.drum is not None else None, BORE_MM)]
    for place_of, bore in zip(_paths(axle, end), bores):
        sheet.circle((x + bore / 2, y), bore / 2, "caliper", f"pistons-{end.name}")
        if place_of:
            above = (x + bore / 2, y + bore / 2 + HANDLE_MM)
            tag = f"pistons-{end.name}"
            sheet.handle(Handle(f"bore, {end.name}", above, (0.0, 1.0), place_of, 2.0, BORE_STEP, tag=tag))
        x += bore + 6.0
    path = f"axles.{end.name}.drum.factor" if end.kind == "drum" else f"axles.{end.name}.pad.mu"
    size = f"{end.mu:g}" if is_known(end.mu) else "____"
    word = f"{'factor of the drum' if end.kind == 'drum' else 'friction of the pad'} {size}"
    tops, example = y + max(bores, default=BORE_MM) / 2, not is_known(end.mu)
    sheet.note(Note((x - 8.0, tops), word, f"pistons-{end.name}", 0, path, prefer=(1.0, 1.0), example=example))
    if end.kind == "drum":
        sheet.note(
            Note(
                (x - 8.0, y),
                f"cylinder {lengths.size(bores[0])}",
                f"pistons-{end.name}",
                1,
                f"axles.{end.name}.drum.cylinder_bore_mm",
                prefer=(1.0, 0.0),
            )
        )
    title = f"{end.name}: {_text(state.line[place] * 10.0, lengths.pressure)}"
    if end.kind == "disc":
        title += f", {_text(state.clamp[place], lengths.force)} on a pad"
    sheet.texts.append(Text((at[0], y - TEXT_MM), title, "text", f"pistons-{end.name}", 9.0, "start", True))
    road = (
        f"{_text(state.torque[place], lengths.torque)} a wheel, {_text(state.road[place], lengths.force)} at the road"
    )
    sheet.texts.append(Text((at[0], y - TEXT_MM), road, "text", f"pistons-{end.name}", 9.0, "start", rise=16.0))


def _paths(axle: Axle, end: End) -> list[str]:
    """Return where each bore that is drawn stands in the file; empty for one that nobody measured."""
    if end.kind == "drum":
        measured = axle.drum is not None and axle.drum.cylinder_bore_mm is not None
        return [f"axles.{end.name}.drum.cylinder_bore_mm" if measured else ""]
    at, caliper = f"axles.{end.name}.caliper", axle.caliper
    inboard = [f"{at}.pistons_inboard_mm[{k}]" for k in range(len(caliper.pistons_inboard_mm))]
    return inboard + [f"{at}.pistons_outboard_mm[{k}]" for k in range(len(caliper.pistons_outboard_mm))]


def _text(value: float, words: Callable[[float], str]) -> str:
    return words(value) if math.isfinite(value) else "____"
