"""Words, marks and charts of an assessment, in the temperature scale they are asked in; the visit bundle and the
command line.
"""
