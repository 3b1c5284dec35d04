"""Files in and out, one format a module. Heavy libraries are imported inside the call that needs them."""
