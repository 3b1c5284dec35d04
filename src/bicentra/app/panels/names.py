"""What the sheets of the parts are called: on their buttons and in menus, and over their fields."""

SHEETS = {
    "hub": ("Hub", "Hub and wheel"),
    "knuckle": ("Lugs", "Lugs and obstacles"),
    "rotor": ("Rotor", "Rotor"),
    "caliper": ("Caliper", "Caliper"),
    "bracket": ("Plate", "Plate and bolts"),
    "job": ("Job", "Job"),
}
