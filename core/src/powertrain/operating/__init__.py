"""Where the parts meet: full throttle, steady travel, top speed, launch, wheels in the air."""
