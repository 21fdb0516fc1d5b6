"""Pure computing: from the bytes of a scan to a page of an archival document. No web framework, no screen.

Order of work: decode -> measure -> plan -> render -> read -> check -> bind.
"""
