"""A physical house and split system to practise on and test against. SI inside; converts at its door (`plant.places`).

It may use engine.units, engine.air and engine.physics.refrigerant.properties; it never meets what the engine expects or
judges, nor they it.
"""
