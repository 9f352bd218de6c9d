"""Running the product on one machine: its database cluster and its one server process."""
