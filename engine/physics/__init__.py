"""What holds of any machine: air, airflow, heat, refrigerants, water, ducts. Knows no round, no plate and no words."""
