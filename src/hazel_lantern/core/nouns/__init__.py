"""What everyone shares: quantities, figures, findings, formulas, sketches, units, errors and guards."""
