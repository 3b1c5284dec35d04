"""The line-up bench: two sightlines, the findings beside them."""
