"""Questions about the controller of a build: which, set to what, wired how."""
