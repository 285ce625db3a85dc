"""A kind of rig that only tests know: a beam that turns a full circle about the subject, its camera pitched down.
Nothing outside this folder says anything of it.
"""
