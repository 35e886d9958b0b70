"""The second look: all rules asked, worst first."""

from isometron.document.document import Document
from isometron.drawing.scene import Scene
from isometron.remarks import framework_rules as _framework_rules  # fills RULES
from isometron.remarks import round_rules as _round_rules  # fills RULES
from isometron.remarks import rules as _rules  # fills RULES
from isometron.remarks.remark import RULES, Look, Remark

__all__ = ["second_look"]
_ = (_rules, _framework_rules, _round_rules)


def second_look(document: Document, scene: Scene) -> list[Remark]:
    """Every remark on a document, the most serious and furthest from right first.

    Of what one rule says about the volumes of one group only the worst is kept: they share a cause.
    """
    look = Look(document, scene)
    remarks = [remark for rule in RULES.values() for remark in rule(look)]
    ordered = sorted(remarks, key=lambda remark: (remark.severity, -remark.excess))
    kept, told = [], set()
    for remark in ordered:
        group = "" if remark.volume is None else document.volumes[remark.volume].group
        if not group or (remark.rule, group) not in told:
            kept.append(remark)
        told.add((remark.rule, group))
    return kept
