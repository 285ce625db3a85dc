"""What making a rig comes to, for every kind alike: cutting plans, what to buy, and pieces longer than any bar."""

from __future__ import annotations

from msgspec import Struct

from hazel_lantern.core.document.project import Carry, Hire
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import BUILD, CLEAR, STOP, WATCH, Finding
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop import money
from hazel_lantern.core.workshop.carrying import loads, longest_way, pieces_of
from hazel_lantern.core.workshop.cost import Line, total
from hazel_lantern.core.workshop.cutting import first_fit
from hazel_lantern.core.workshop.laid import Laid
from hazel_lantern.core.workshop.part import Buy, Part
from hazel_lantern.core.workshop.plan import Order, SectionPlan, buy_list, plans
from hazel_lantern.core.workshop.walls import from_ends, thinnest

THIN = 0.002  # metres beside a hole below which a drill wanders out


class Built(Struct, frozen=True):
    """The buy list, and figures and findings about making it."""

    lines: tuple[Line, ...]
    told: Told


def cuts_of(order: Order) -> tuple[SectionPlan, ...]:
    """The quick plan of an order."""
    return plans(order, first_fit)


def build_figures(
    laid: Laid,
    cuts: tuple[SectionPlan, ...],
    more: tuple[Buy, ...] = (),
    hire: Hire | None = None,
    carry: Carry = Carry(),  # noqa: B008  frozen
) -> Built:
    """Figures and findings about making it that hold for every kind; `more` is bought beside what is laid out."""
    parts, lines, tell = laid.parts, buy_list(cuts, laid.bought + more), Teller()
    if not parts:
        return Built(lines, tell.told())
    count = sum(part.quantity for part in parts)
    pieces = tuple(Given(part.mark, part.mass * part.quantity, "kg", part.name) for part in parts)
    done = [plan.plan for plan in cuts if plan.plan]
    bought = sum(plan.stocks[bar.stock].length for plan in cuts if plan.plan for bar in plan.plan.bars)
    used = sum(cut for plan in done for bar in plan.bars for cut in bar.cuts)
    tell.add(
        by_method("build.pieces", "Pieces to cut", count, "count", "parts counted", pieces, source="parts list"),
        by_method(
            "build.mass",
            "Cut parts weigh",
            sum(p.mass * p.quantity for p in parts),
            "kg",
            "sum of all pieces",
            pieces,
            source="sections and densities",
        ),
        by_method(
            "build.cost",
            "To buy",
            total(lines),
            "currency",
            "sum of the buy list",
            tuple(Given(f"p_{i}", line.total, "currency", line.name) for i, line in enumerate(lines)),
            source="example prices",
        ),
        by_method(
            "build.cut_cost",
            "Bars for the cuts",
            sum(plan.cost for plan in done),
            "currency",
            "the cheapest plan found: first fit at once, the exact search when it was run",
            (Given("bound", sum(plan.bound for plan in done), "currency", "no plan can cost less than"),),
            source="drive 7.2",
        ),
    )
    if bought:
        tell.add(
            by_method(
                "build.waste",
                "Left over of the bars",
                1 - used / bought,
                "1",
                "one minus cut length over bar length",
                (),
                source="cutting plan",
            )
        )
    if done and all(plan.plan for plan in cuts):
        cost, bound = sum(plan.cost for plan in done), sum(plan.bound for plan in done)
        tell.hold(
            "build.cut_cost",
            "build.cuts",
            "Cuts from stock",
            BUILD,
            "build.cut_cost",
            "The bars cost {}; no plan is known to be possible under {}.",
            at_most=bound,
            state=CLEAR if cost <= bound + 0.005 else WATCH,
        )
    _carried(tell, laid, carry)
    if hire is not None:
        _against_hire(tell, total(lines), hire)
    tell.take(_walls(parts))
    tell.take(_ends(parts))
    return Built(lines, tell.told())


def _carried(tell: Teller, laid: Laid, carry: Carry) -> None:
    """What has to go into the car and round the corner, what one person can lift,
    and in how many loads it is carried."""
    longest = max(laid.parts, key=lambda part: part.length)
    pieces = [(part.mass, part.name) for part in laid.parts]
    pieces += [(thing.mass, thing.name) for thing in laid.things if thing.fill not in ("weight", "person")]
    mass, name = max(pieces)
    every = loads(pieces_of(laid, carry.lift_kg), carry.bag_m, carry.lift_kg)
    lifted = Given("m", carry.lift_kg, "kg", "one person lifts", "carry.lift_kg")
    bag = Given("b", carry.bag_m, "m", "longest in the bag", "carry.bag_m")
    sorts = tuple(
        Given(f"m_{n}", load.mass, "kg", f"{load.sort}: {len(load.pieces)} piece{'s' if len(load.pieces) > 1 else ''}")
        for n, load in enumerate(every, 1)
    )
    tell.add(
        by_method(
            "build.longest",
            "Longest piece, for the car",
            longest.length,
            "m",
            f"{longest.mark} {longest.name.lower()}",
            (Given("n", float(len(pieces)), "1", "pieces looked at"),),
            source="parts list",
        ),
        by_method(
            "build.heaviest",
            "Heaviest piece",
            mass,
            "kg",
            name.lower(),
            (Given("n", float(len(pieces)), "1", "pieces looked at"),),
            source="parts list",
        ),
        by_method(
            "build.loads",
            "Carried in loads",
            len(every),
            "count",
            "heaviest first, each piece into the first load with room for it",
            (lifted, bag, *sorts),
            source="geometry",
        ),
    )
    tell.hold(
        "build.heaviest",
        "build.lifted",
        "Lifted by one person",
        BUILD,
        "carry.lift_kg",
        "The heaviest piece weighs {}; up to {} one person lifts it, two carry more.",
        at_most=carry.lift_kg,
        state=CLEAR if mass <= carry.lift_kg else WATCH,
    )
    way, what = longest_way(carry)
    if what:
        words = "go into the car" if what == "car" else "go level through the door and round its corner"
        tell.hold(
            "build.longest",
            "build.in_car",
            "Comes along",
            BUILD,
            f"carry.{what}_m",
            f"The longest piece is {{}}; up to {{}} {words}.",
            at_most=way,
            state=CLEAR if longest.length <= way + 1e-9 else WATCH,
        )


def _against_hire(tell: Teller, cost: float, terms: Hire) -> None:
    """Tax, and from how many days on building costs no more than hiring."""
    price, tax = tell.given("c", "build.cost"), Given("t", terms.tax, "1", "tax, per cent", "hire.tax")
    gross = money.summed((money.Wanted(1.0, 0.0, 1.0, cost),), terms.tax).gross
    if terms.tax > 0:
        tell.add(
            by_method(
                "build.gross",
                "With tax",
                gross,
                "currency",
                "exact decimals, rounded half up once",
                (price, tax),
                source="drive 10.1",
            )
        )
    if terms.day <= 0:
        return
    days = money.pays_from(gross, terms.day, terms.week or None, terms.fixed, terms.resale)
    given = (
        price,
        Given("d", terms.day, "currency", "hired for a day", "hire.day"),
        Given("w", terms.week, "currency", "for a week", "hire.week"),
        Given("f", terms.fixed, "currency", "once", "hire.fixed"),
        Given("r", terms.resale, "currency", "sold for after", "hire.resale"),
    )
    if days is None:
        tell.findings.append(
            Finding(
                "build.hire",
                "Hire or build",
                BUILD,
                WATCH,
                "hire.day",
                Words("Building never pays against hiring at this price, however long it is used."),
            )
        )
        return
    tell.add(
        by_method(
            "build.pays_from",
            "Building pays from",
            days,
            "count",
            "days of use, the first on which it costs no more than hiring",
            given,
            source="drive 10.2",
        )
    )


def _walls(parts: tuple[Part, ...]) -> Told:
    """Whether a hole runs out of its piece or into the next one."""
    thin, tell = thinnest(parts), Teller()
    if thin is None:
        return Told()
    part, left = thin.part, thin.left
    given = (Given("d", thin.mark.size, "m", thin.mark.note), Given("x", thin.mark.at, "m", f"from {part.from_datum}"))
    tell.add(
        by_method(
            "build.wall",
            "Least left beside a hole",
            left,
            "m",
            f"{part.mark} {part.name.lower()}: to its edges and to the next hole",
            given,
            source="geometry",
        )
    )
    words = Words(
        f"{part.mark} {part.name.lower()}, {thin.mark.note}: "
        + ("{} is left beside the hole." if left >= 0 else "the hole overlaps an edge or the next hole by {}."),
        ((abs(left), "m"),),
    )
    state = STOP if left < 0 else WATCH if left < THIN else CLEAR
    tell.hold(
        "build.wall", "build.holes", "Room around the holes", BUILD, "build.wall", words, at_least=THIN, state=state
    )
    return tell.told()


def _ends(parts: tuple[Part, ...]) -> Told:
    """Whether a bolt may tear out of the end of its piece."""
    near, tell = from_ends(parts), Teller()
    if near is None:
        return Told()
    part, mark, left = near.part, near.mark, near.left
    from_end = min(mark.at, part.length - mark.at)
    asked = from_end - left
    given = (Given("d", mark.size, "m", mark.note), Given("x", from_end, "m", "hole's middle from the end"))
    tell.add(
        by_method(
            "build.from_end",
            "Bolt nearest to an end, beyond what is asked",
            left,
            "m",
            f"{part.mark} {part.name.lower()}: 1.5 diameters in metal, 3 in plywood, 4 in wood, 2.5 in plastic",
            given,
            source="drive 8.4",
        )
    )
    words = Words(
        f"{part.mark} {part.name.lower()}, {mark.note}: {{}} from its end; {{}} keep it from tearing out.",
        ((from_end, "m"), (asked, "m")),
    )
    tell.hold(
        "build.from_end",
        "build.ends",
        "Bolts near an end",
        BUILD,
        "build.from_end",
        words,
        at_least=0.0,
        state=WATCH if left < -1e-6 else CLEAR,
    )
    return tell.told()


def too_long(parts: tuple[Part, ...], cuts: tuple[SectionPlan, ...]) -> tuple[Part, float, Finding] | None:
    """The longest piece longer than any bar sold, what is sold [m], and the finding; None where all can be cut."""
    uncut = {made.section: made for made in cuts if made.plan is None}
    if not uncut:
        return None
    longest = max((part for part in parts if part.section in uncut), key=lambda part: part.length)
    made = uncut[longest.section]
    sold = max(stock.length for stock in made.stocks)
    words = Words(
        f"{longest.name} {longest.mark} is {{}} long; {made.name} is sold up to {{}}.",
        ((longest.length, "m"), (sold, "m")),
    )
    return (
        longest,
        sold,
        Finding("build.stock", "Too long for the stock", BUILD, STOP, "", words, longest.length, sold, "at_most", "m"),
    )
