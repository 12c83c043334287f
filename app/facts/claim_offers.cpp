#include <algorithm>
#include <cmath>

#include "claim_names.h"
#include "edit/items.h"
#include "facts/pages.h"
#include "level/element_kinds.h"
#include "level/order.h"

namespace rubble::app {

namespace {

void offer(Page& page, Claim claim, const QString& text) {
    Session& session = page.session();
    claim.id = edit::fresh_claim_id(session.level());
    claim.name = text.toStdString();
    QPushButton* button = page.add_button(text, [&session, claim] {
        session.apply(edit::with_claim(session.level(), claim), Facts::tr("Claim"));
    });
    button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    button->setToolTip(text);
}

/// Of three elements where one begins, where one gets to, and what is between: a start first, a goal last,
/// else as they were selected.
std::vector<const Item*> in_order(std::vector<const Item*> items) {
    const auto rank = [](const Item* item) {
        const Role role = role_of(*item->element());
        return role == Role::start ? 0 : role == Role::goal ? 2 : 1;
    };
    if (items.size() == 3) std::swap(items[1], items[2]); // selected last: what is between
    std::stable_sort(items.begin(), items.end(), [&](auto* a, auto* b) { return rank(a) < rank(b); });
    return items;
}

/// What is claimed at first of players, and of how long a way takes.
constexpr double k_share_pct = 90, k_spare = 1.25;

/// How long the way between a claim's ends takes, as far as the check knows; nothing where there is none.
std::optional<double> way_s(const Session& session, const Claim& claim) {
    const auto& result = session.built().check;
    if (!result) return {};
    for (size_t i = 0; i < result->claims.size(); ++i)
        if (const auto& judged = result->claims[i]; judged.question.claim.from == claim.from &&
                                                    judged.question.claim.to == claim.to && judged.time_s > 0)
            return judged.time_s;
    const auto starts = elements_of(session.level(), Role::start);
    for (const check::Place& place : result->places)
        if (place.item == claim.to && place.time_s > 0 && !starts.empty() && starts[0]->id == claim.from)
            return place.time_s;
    return {};
}

} // namespace

void offer_claims(Page& page) {
    Session& session = page.session();
    std::vector<const Item*> items;
    for (const ItemId& id : session.selection())
        if (const Item* item = find_item(session.level(), id); item && item->element()) items.push_back(item);
    if (items.empty() || items.size() != session.selection().size() || items.size() > 3) return;
    std::vector<const Item*> ordered = items.size() == 3 ? in_order(items) : items;
    const auto title = [&](size_t i) { return QString::fromStdString(ordered[i]->title()); };
    const bool start = role_of(*items[0]->element()) == Role::start;
    if (items.size() == 1 && !start && role_of(*items[0]->element()) == Role::note) return;
    page.add_text(items.size() == 1
                      ? Facts::tr("Claim this. Claims are checked after every change:")
                      : Facts::tr("Claim one of these. Claims are checked after every change:"));
    for (const ClaimKind& kind : claim_kinds) {
        Claim claim;
        claim.kind = kind.kind;
        if (kind.ends == 0 && items.size() == 1 && !start) {
            claim.element = items[0]->element()->kind;
            const auto all = elements_of(session.level());
            claim.count = int(std::count_if(all.begin(), all.end(), [&](const Item* one) {
                return one->element()->kind == claim.element;
            }));
            const QString what = QString::fromStdString(claim.element);
            offer(page, claim, Facts::tr("At most %1 of the kind %2").arg(claim.count).arg(what));
        }
        if (kind.ends != int(items.size()) || (kind.ends == 1 && !start) || kind.of_items) continue;
        claim.from = ordered[0]->id;
        if (items.size() == 2) claim.to = ordered[1]->id;
        if (items.size() == 3) claim.item = ordered[1]->id, claim.to = ordered[2]->id;
        if (kind.kind == Claim::Kind::share) claim.value = k_share_pct, claim.skill = usual_skills()[0].name;
        if (kind.kind == Claim::Kind::within) {
            // What it takes now, and a quarter more.
            const auto now = way_s(session, claim);
            if (!now) continue;
            claim.value = std::ceil(*now * k_spare);
            offer(page, claim, claim_text(kind.kind, title(0), title(1), QString::number(claim.value)));
            continue;
        }
        offer(page, claim,
              items.size() == 1   ? claim_text(kind.kind, title(0))
              : items.size() == 2 ? claim_text(kind.kind, title(0), title(1))
                                  : claim_text(kind.kind, title(0), title(2), title(1)));
    }
}

} // namespace rubble::app
