"""What a vehicle asks whose engine comes out."""
