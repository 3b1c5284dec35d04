"""The drawing view that every bench uses: pulled, nudged, typed over; and what part of a drawing is in view."""
