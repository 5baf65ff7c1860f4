"""The stock page: what is on hand and for sale, how it is sawn, which piece goes where, what to buy and what is used up."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSplitter,
    QStackedWidget,
    QTabWidget,
    QVBoxLayout,
    QWidget,
)

from ....core.amounts import far_length
from ....core.change import change
from ....core.findings import in_words
from ....core.hull.stages import HULL
from ....core.molds.stages import MOLDS
from ....core.planking.stages import BEHAVIOURS, PLANKING
from ....core.settings.timber import Board
from ....core.stock.bought import bought
from ....core.stock.cut_already import cut_up_to, laid_but_not_cut
from ....core.stock.needs import SIDES
from ....core.stock.plan import Lot, StockPlan
from ....core.stock.rip import bundle_words, saw_steps
from ....core.stock.stages import STOCK
from ....core.words import counted
from ....drawing.model import Drawing
from ....drawing.planking.shades import ShadeBy, strip_shades
from ....drawing.stock.board_cuts import board_cuts
from ....drawing.stock.joint_map import joint_map
from ....files.stock.schedules import CONSUMED, LENGTHS, LOTS, bought_of
from ...views.bench_card import Card
from ...views.boards_table import FIELDS, BoardsModel, BoardsTable
from ...views.drawing_view import DrawingView
from ...views.schedule_columns import schedule_table, show_schedule
from ..page import FOOT_TALL, HEAD_TALL, Page, Seen, result_label
from .cards import board_card, other_way, strip_card
from .groups import STOCK_GROUPS

ON_HAND, FOR_SALE, TO_BUY, PIECES, USED_UP = range(5)
NOTHING = (
    "Type the boards you have in the table below: wood, thickness, width, length and how many; or what is for sale, with prices. "
    "How they are sawn, which piece goes where and what to buy follows by itself."
)


class StockPage(Page):
    """Boards, their cuts, the joints, the buying list and all else that is used up."""

    drawer_at_first = 250

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__("What wood is needed, and how is it cut?", STOCK_GROUPS, "wood", parent)
        self.result = result_label("")
        self.head.addWidget(self.result)
        self.lot_name = ""
        self.joints_seen = Seen()
        self.on_hand_model = BoardsModel(self._boards_typed, for_sale=False)
        self.for_sale_model = BoardsModel(self._sellers_typed, for_sale=True)
        self.on_hand = BoardsTable("Boards on hand", self.on_hand_model)
        self.for_sale = BoardsTable("Boards for sale", self.for_sale_model)
        for table in (self.on_hand, self.for_sale):
            table.fault.connect(self.said)
        self.on_hand.cell_chosen.connect(lambda row, _: self._lot_chosen(self.on_hand_model, row))
        self.for_sale.cell_chosen.connect(lambda row, _: self._lot_chosen(self.for_sale_model, row))
        self.to_buy = schedule_table(LOTS)
        self.to_buy.picked.connect(lambda key: self._show_lot(key.removeprefix("lot:")))
        self.pieces = schedule_table(LENGTHS)
        self.pieces.picked.connect(self.choose_key)
        self.used_up = schedule_table(CONSUMED)
        self.board_view, self.joint_view = (DrawingView("The board's end, with its cuts"), DrawingView("Joints on the girth map"))
        self.joint_view.stretch_to_fit = True
        self.joint_view.picked.connect(self.choose_key)
        self.tabs = QTabWidget()
        for text, widget in (
            ("On hand", self.on_hand),
            ("For sale", self.for_sale),
            ("To buy", self._buying_tab()),
            ("Pieces", self._pieces_tab()),
            ("Used up", self.used_up),
        ):
            self.tabs.addTab(widget, text)
        self.tabs.currentChanged.connect(lambda _: self._tab_changed())
        self.steps = QLabel()
        self.steps.setWordWrap(True)
        self.steps.setAlignment(Qt.AlignmentFlag.AlignTop)
        boards = QSplitter(Qt.Orientation.Horizontal)
        boards.addWidget(self.board_view)
        boards.addWidget(self._steps_pane())
        boards.setSizes([520, 300])
        self.above = QStackedWidget()
        self.above.addWidget(boards)
        self.above.addWidget(self.joint_view)
        self.set_drawing(self.above, [self.board_view, self.joint_view], [self.board_view, self.joint_view])
        self.set_drawer(self.tabs, "Tables of wood")

    def _steps_pane(self) -> QWidget:
        """How the boards on show are sawn; on an empty page what to do, with a button that begins it."""
        self.first_board = QPushButton("Type the first board")
        self.first_board.clicked.connect(self._begin)
        pane = QWidget()
        column = QVBoxLayout(pane)
        column.setContentsMargins(14, HEAD_TALL + 8, 14, FOOT_TALL)
        column.addWidget(self.steps)
        column.addWidget(self.first_board, 0, Qt.AlignmentFlag.AlignLeft)
        column.addStretch(1)
        return pane

    def _begin(self) -> None:
        self.open_drawer(True)
        self.tabs.setCurrentWidget(self.on_hand)
        self.on_hand.begin(0, FIELDS.index("thickness"))

    def _buying_tab(self) -> QWidget:
        self.bought = QPushButton("I have bought these")
        self.bought.setToolTip("They are on hand then, under the same marks: no piece is planned anew")
        self.bought.clicked.connect(self._bought)
        self.buy_said = QLabel()
        return _under_a_row([self.bought, self.buy_said], self.to_buy)

    def _pieces_tab(self) -> QWidget:
        self.side = QComboBox()
        self.side.setAccessibleName("Side on the map")
        for side in SIDES:
            self.side.addItem(side, side)
        self.side.activated.connect(lambda _: self.refresh())
        self.cut_now = QPushButton("Cut up to this strip")
        self.cut_now.setToolTip("What is cut stays as it is; the rest is planned again when something changes")
        self.cut_now.clicked.connect(lambda: self._cut_up_to(self.state.strip.number if self.state.strip else 0))
        self.cut_laid = QPushButton()
        self.cut_laid.setToolTip("These strips are on the hull, so their pieces are cut")
        self.cut_laid.clicked.connect(lambda: self._cut_up_to(laid_but_not_cut(self.state.job)))
        self.not_cut = QPushButton("Nothing is cut")
        self.not_cut.clicked.connect(lambda: self.change("nothing is cut", "stock", cut=()))
        self.cut_said = QLabel()
        name = QLabel("Map of")
        name.setObjectName("small")
        return _under_a_row([name, self.side, self.cut_now, self.cut_laid, self.not_cut, self.cut_said], self.pieces)

    # -- edits -----------------------------------------------------------------------------------------

    def _boards_typed(self, label: str, boards: tuple[Board, ...]) -> None:
        self.edited.emit(label, change(self.state.job, "stock", boards=boards))

    def _sellers_typed(self, label: str, boards: tuple[Board, ...]) -> None:
        self.edited.emit(label, change(self.state.job, "stock.buying", for_sale=boards))

    def _cut_up_to(self, number: int) -> None:
        plan = self.state.stock
        if plan is None or plan.plan is None or not self.state.stocked:
            self.said.emit("The pieces must be planned first.")
            return
        after = cut_up_to(self.state.job.stock, plan, number)
        if len(after.cut) == len(self.state.job.stock.cut):
            self.said.emit("Choose the last strip that is cut in the table first.")
            return
        self.change(f"cut up to strip {number}", "", stock=after)

    def _bought(self) -> None:
        if self.state.stock is not None and self.state.stocked:
            self.change("boards bought", "", stock=bought(self.state.job.stock, self.state.stock.lots))

    def _lot_chosen(self, model: BoardsModel, row: int) -> None:
        if row < len(model.marks):
            self._show_lot(model.marks[row])

    def _show_lot(self, name: str) -> None:
        if name != self.lot_name:
            self.lot_name = name
            self._show_board()
            self.card_changed.emit()

    # -- showing ---------------------------------------------------------------------------------------

    def refresh(self) -> None:
        state, stock = self.state, self.state.job.stock
        self.say_findings("stock")
        wood, money = state.job.strips.wood, stock.buying.currency
        marks, have = stock.marks, len(stock.boards)
        for model, boards, own in (
            (self.on_hand_model, stock.boards, marks[:have]),
            (self.for_sale_model, stock.buying.for_sale, marks[have:]),
        ):
            model.theme = state.theme
            model.show_boards(boards, own, frozenset(marks), wood, money, state.style)
        plan = state.stock
        self.result.setText(self._words(plan))
        if not self.seen(state.key(STOCK), stock, state.job.units, state.theme):
            self._show_tables(plan)
            self._show_board()
        self._show_cut()
        if self.tabs.currentIndex() == PIECES:
            self._show_joints()
        if state.strip is not None:
            key = f"strip:{state.strip.number}"
            self.joint_view.mark(key)
            if self.pieces.current_key() != key:
                self.pieces.select(key)

    def _words(self, plan: StockPlan | None) -> str:
        state = self.state
        if not state.job.offsets.rows:
            return ""
        if plan is None:
            return "" if state.problem else "planning…"
        together = far_length(sum(n.length for n in plan.needs), state.style)
        words = f"{len(plan.needs)} lengths · {together}"
        if plan.plan is not None and plan.plan.used:
            lost = 100 * (plan.plan.lost + plan.plan.scrap) / plan.plan.used
            words += f" · {counted(plan.plan.joints, 'joint')} · {lost:.1f} % lost"
        if plan.purchases:
            count = sum(p.count for p in plan.purchases)
            words += f" · buy {count} board{'s' if count > 1 else ''}"
            if plan.cost:
                words += f", {plan.cost:.2f} {state.job.stock.buying.currency}"
        return words + ("" if state.stocked else "  (out of date)")

    def _show_tables(self, plan: StockPlan | None) -> None:
        job = self.state.job
        lots = plan.purchases if plan else ()
        show_schedule(self.to_buy, LOTS, bought_of(job, plan) if plan else None, job.units)
        self.to_buy.fix_widths({1: 190, 2: 170})
        self.bought.setVisible(bool(lots))
        self.buy_said.setText(self._buying_words(plan, lots))
        show_schedule(self.pieces, LENGTHS, plan, job.units)
        self.pieces.fix_widths({0: 110, 1: 84, 3: 190})
        show_schedule(self.used_up, CONSUMED, plan, job.units)
        self.used_up.fix_widths({0: 230, 1: 100})

    def _show_cut(self) -> None:
        job = self.state.job
        cut, laid = len(job.stock.cut), laid_but_not_cut(job)
        self.not_cut.setVisible(bool(cut))
        self.cut_said.setText(f"{cut} lengths are cut and stay as they are" if cut else "")
        self.cut_laid.setVisible(bool(laid))
        self.cut_laid.setText(f"Cut up to strip {laid}, as laid")

    def _buying_words(self, plan: StockPlan | None, lots: tuple[Lot, ...]) -> str:
        """How far what is bought reaches, or why nothing is."""
        stock = self.state.job.stock
        if plan is None:
            return ""
        if lots:
            return f"with {stock.buying.spare:g} % to spare, joints counted; {stock.buying.wish.value}"
        if stock.buying.for_sale:
            return "Nothing: what is on hand is enough." if plan.plan is not None else ""
        return "Type what is for sale, with its price, under For sale: what to buy of it follows."

    def _show_joints(self) -> None:
        state, plan = self.state, self.state.stock
        drawn = state.key(HULL, MOLDS, PLANKING, BEHAVIOURS, STOCK)
        if self.joints_seen(drawn, state.job.units, state.theme, self.side.currentData()):
            return
        if state.shape is None or state.planking is None or plan is None:
            self.joint_view.show_drawing(Drawing("", ()), state.theme, state.style)
            return
        shades: tuple[int, ...] = ()
        if len({s.wood for s in plan.sections}) > 1:
            shades, _ = strip_shades(state.planking, state.job, state.behaviours, ShadeBy.WOOD)
        drawing = joint_map(state.shape, state.planking, plan, self.side.currentData(), state.style, shades)
        self.joint_view.show_drawing(drawing, state.theme, state.style)

    def _lot(self) -> Lot | None:
        """The boards on show: those chosen, or the first that strips come from."""
        lots = self.state.stock.lots if self.state.stock else ()
        return next((lot for lot in lots if lot.mark == self.lot_name), lots[0] if lots else None)

    def _show_board(self) -> None:
        state, lot = self.state, self._lot()
        self.board_view.setVisible(lot is not None)
        self.first_board.setVisible(False)
        if lot is None:
            self.board_view.show_drawing(Drawing("", ()), state.theme, state.style)
            empty = not state.job.stock.given
            self.steps.setText(NOTHING if empty else "")
            self.first_board.setVisible(empty)
            return
        saw = state.job.stock.saw
        self.board_view.show_drawing(board_cuts(lot, saw, state.style), state.theme, state.style)
        steps = [in_words(step, state.write_fine) for step in saw_steps(lot.board, lot.rip, saw)]
        if lot.boards and lot.rip.count > 1:
            steps.append(bundle_words(lot.boards[0], lot.rip.count, saw.order))
        numbered = [f"{k}.  {step}" for k, step in enumerate(steps, start=1)]
        self.steps.setText("\n".join([*numbered, other_way(lot, state.job.stock.saw)]))

    def _tab_changed(self) -> None:
        self.above.setCurrentIndex(1 if self.tabs.currentIndex() == PIECES else 0)
        self.refresh()
        self.card_changed.emit()

    def card(self) -> Card:
        if self.tabs.currentIndex() == PIECES:
            return strip_card(self.state)
        lot = self._lot()
        return board_card(self.state, lot) if lot is not None else Card("Boards", meaning="none yet")


def _under_a_row(widgets: list[QWidget], table: QWidget) -> QWidget:
    """A table under a row of buttons and words."""
    row = QHBoxLayout()
    for widget in widgets:
        row.addWidget(widget)
    row.addStretch(1)
    whole = QWidget()
    column = QVBoxLayout(whole)
    column.setContentsMargins(0, 4, 0, 0)
    column.addLayout(row)
    column.addWidget(table, 1)
    return whole
