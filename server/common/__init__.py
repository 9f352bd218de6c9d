"""What every app of the server may lean on."""
