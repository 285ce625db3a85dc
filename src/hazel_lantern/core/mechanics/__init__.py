"""Pure engines: payload, sections, linkages, balance, footing, beams, pins. They know nothing of rig kinds."""
