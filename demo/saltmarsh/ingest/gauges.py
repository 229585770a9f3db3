"""What a gauge says, and what the water's level is."""
import tables


def corrected(reading, zero):
    return min(reading - zero, tables.LIMIT)
