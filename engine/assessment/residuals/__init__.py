"""A round's residuals: every indicator that its readings allow, against what a sound unit of this kind shows today."""
