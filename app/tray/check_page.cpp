#include "claim_names.h"
#include "edit/fresh_ids.h"
#include "edit/items.h"
#include "level/element_kinds.h"
#include "level/order.h"
#include "numbers.h"
#include "theme.h"
#include "tray/pages.h"
#include "tray/signs.h"

namespace rubble::app {

namespace {

/// What is missing where a claim fails, in a few words.
QString missing_text(const check::CheckResult& result, const Claim& claim) {
    for (const check::NearMiss& miss : result.near_misses)
        if (miss.limit == check::Limit::item && miss.to == claim.to)
            return Tray::tr("behind what is closed");
        else if (miss.to == claim.to || miss.to == claim.from)
            return miss.limit == check::Limit::slope
                       ? Tray::tr("%1° too steep").arg(miss.missing_deg, 0, 'f', 1)
                       : Tray::tr("%1 missing").arg(metres_text(miss.missing_m));
    return {};
}

QListWidgetItem* claim_row(const Claim& claim, const check::CheckResult* result) {
    const check::ClaimResult* judged = nullptr;
    if (result)
        for (const auto& one : result->claims)
            if (one.id == claim.id) judged = &one;
    QString text = QString::fromStdString(claim.name.empty() ? claim.id.value : claim.name);
    QPixmap picture = sign(color::ochre, 4);
    if (judged && judged->state == check::ClaimState::holds) {
        picture = sign(color::sea_green, 1);
        if (judged->time_s > 0) text += Tray::tr(" · %1\u00a0s").arg(judged->time_s, 0, 'f', 1);
    }
    if (judged && judged->state == check::ClaimState::fails) {
        picture = sign(color::plum, 0);
        if (const QString missing = missing_text(*result, claim); !missing.isEmpty()) text += "\n" + missing;
    }
    return new QListWidgetItem(QIcon(picture), text);
}

/// Most levels are to be finished: who has a start and a goal and has not claimed so is one press from it.
void offer_first_claim(Page& page) {
    Session& session = page.session();
    const auto starts = elements_of(session.level(), Role::start),
               goals = elements_of(session.level(), Role::goal);
    if (starts.empty() || goals.empty()) return;
    const ItemId from = starts[0]->id, to = goals[0]->id;
    for (const Claim& claim : session.level().claims)
        if (claim.from == from && claim.to == to) return;
    const QString name = claim_text(Claim::Kind::reaches, QString::fromStdString(starts[0]->title()),
                                    QString::fromStdString(goals[0]->title()));
    page.add_button(Tray::tr("Claim: %1").arg(name), [&session, from, to, name] {
        Claim claim;
        claim.id = edit::fresh_claim_id(session.stored_level());
        claim.name = name.toStdString();
        claim.kind = Claim::Kind::reaches, claim.from = from, claim.to = to;
        session.apply(edit::with_claim(session.stored_level(), claim), Tray::tr("Claim"));
    });
}

/// What was tried against ruins and helps: each is put in by a click.
void add_ruin_mends(Page& page) {
    constexpr size_t k_most = 3;
    Session& session = page.session();
    const PuzzleAnswer& known = session.puzzle_answer();
    for (size_t i = 0; i < known.mends.size() && i < k_most; ++i) {
        const check::PuzzleMend& mend = known.mends[i];
        const Element& element = std::get<Element>(mend.item.body);
        const CellAt cell = known.cells->cell_at(flat(element.at));
        const QString what = element.kind == "barrier" ? Tray::tr("Barrier at %1, %2: %3 fewer, %4 steps")
                                                       : Tray::tr("Pick-up at %1, %2: %3 fewer, %4 steps");
        page.add_button(what.arg(cell.column).arg(cell.row).arg(mend.fewer_ruins).arg(mend.steps),
                        [&session, mend] {
                            Item item = mend.item;
                            item.id = edit::fresh_id(session.stored_level(), "m");
                            session.apply(edit::with_item(session.stored_level(), session.layer(), item),
                                          Tray::tr("Mend a ruin"));
                            session.select({item.id});
                        });
    }
}

/// Ruins that are noticed only later, the latest first: each leads to its place.
void add_ruins(Page& page, Tray& tray) {
    const PuzzleAnswer& known = page.session().puzzle_answer();
    if (!known.puzzle || !known.cells) return;
    std::vector<solve::Ruin> ruins;
    for (const solve::Ruin& ruin : known.answer.ruins)
        if (!ruin.noticed_after || *ruin.noticed_after > 0) ruins.push_back(ruin);
    if (ruins.empty()) return;
    const auto late = [](const solve::Ruin& ruin) { return ruin.noticed_after.value_or(1 << 30); };
    std::stable_sort(ruins.begin(), ruins.end(), [&](auto& a, auto& b) { return late(a) > late(b); });
    page.add_heading(Tray::tr("Ruins that are noticed late"));
    QListWidget* list = page.add_short_list(Tray::tr("Ruins that are noticed late"));
    const QString ways[] = {Tray::tr("to the right"), Tray::tr("up"), Tray::tr("to the left"),
                            Tray::tr("down"), Tray::tr("by waiting")};
    for (const solve::Ruin& ruin : ruins) {
        const Item* crate =
            ruin.crate < 0 ? nullptr
                           : find_item(page.session().level(), known.puzzle->crates[size_t(ruin.crate)].id);
        const QString what = crate ? Tray::tr("%1 pushed %2").arg(QString::fromStdString(crate->title()))
                                   : Tray::tr("A step %1");
        const QString when = ruin.noticed_after ? Tray::tr("noticed after %1 steps").arg(*ruin.noticed_after)
                                                : Tray::tr("not noticed");
        const CellAt cell = known.puzzle->at(ruin.from);
        const QString where = Tray::tr("from %1, %2").arg(cell.column).arg(cell.row);
        list->addItem(what.arg(ways[size_t(ruin.letter)]) + "\n" + where + QStringLiteral(" · ") + when);
    }
    QObject::connect(list, &QListWidget::currentRowChanged, &page, [&tray, ruins, known](int row) {
        if (row < 0 || size_t(row) >= ruins.size()) return;
        const solve::Ruin& ruin = ruins[size_t(row)];
        std::vector<ItemId> items;
        if (ruin.crate >= 0) items.push_back(known.puzzle->crates[size_t(ruin.crate)].id);
        emit tray.findingChosen(raised(known.cells->middle_of(known.puzzle->at(ruin.from)), 0), items);
    });
    add_ruin_mends(page);
}

} // namespace

void fill_check(Page& page, Tray& tray) {
    Session& session = page.session();
    const auto result = session.built().check;
    page.add_heading(Tray::tr("Claims"));
    if (session.level().claims.empty())
        page.add_text(Tray::tr("None yet. Select two elements to claim that one reaches the other."));
    offer_first_claim(page);
    page.add_button(Tray::tr("Ask about a place"), [&tray] { emit tray.toolWanted(QStringLiteral("ask")); });
    QListWidget* claims = page.add_short_list(Tray::tr("Claims"));
    for (const Claim& claim : session.level().claims) claims->addItem(claim_row(claim, result.get()));
    QObject::connect(claims, &QListWidget::currentRowChanged, &page, [&session, &tray](int row) {
        if (row >= 0 && size_t(row) < session.level().claims.size())
            emit tray.claimChosen(session.level().claims[size_t(row)].id);
    });
    add_ruins(page, tray);
    add_findings(page, tray);
}

} // namespace rubble::app
