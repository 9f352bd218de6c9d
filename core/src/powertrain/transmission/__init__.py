"""Gearing: stages in series between motor and wheel."""
