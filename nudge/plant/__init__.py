"""The simulated system: a vapour-compression plant from first principles.

Stands beside the judgement and never shares its code: neither may import the other. SI
throughout; pressures absolute inside, gauge in what `truth.py` gives out.
"""
