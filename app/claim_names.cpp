#include "claim_names.h"

#include "edit/fresh_ids.h"
#include "edit/items.h"
#include "level/order.h"
#include "numbers.h"
#include "text.h"

namespace rubble::app {

QString claim_text(Claim::Kind kind, const QString& from, const QString& to, const QString& item) {
    switch (kind) {
    case Claim::Kind::reaches:
        return tr("%1 reaches %2").arg(from, to);
    case Claim::Kind::not_reaches:
        return tr("%1 does not reach %2").arg(from, to);
    case Claim::Kind::returns:
        return tr("From %1 to %2 and back").arg(from, to);
    case Claim::Kind::within:
        return tr("From %1 to %2 in no more than %3 s").arg(from, to, item);
    case Claim::Kind::stays:
        return tr("From %1 to %2 it stays as easy").arg(from, to);
    case Claim::Kind::share:
        return tr("From %1 to %2 nine of ten newcomers get").arg(from, to);
    case Claim::Kind::needs:
        return tr("%1 reaches %2 only with %3").arg(from, to, item);
    case Claim::Kind::order:
        return tr("From %1 first %3, then %2").arg(from, to, item);
    case Claim::Kind::all_pickups:
        return tr("From %1 all pick-ups are had").arg(from);
    case Claim::Kind::never_stuck:
        return tr("From %1 nobody gets stuck").arg(from);
    case Claim::Kind::at_most:
        return tr("No more of %1 than there are").arg(from);
    }
    return {};
}

QString missing_in_words(const check::NearMiss& miss) {
    const QString missing = metres_text(miss.missing_m);
    switch (miss.limit) {
    case check::Limit::gap:
        return tr("%1 too wide").arg(missing);
    case check::Limit::height:
        return tr("%1 too high").arg(missing);
    case check::Limit::headroom:
        return tr("%1 too low overhead").arg(missing);
    case check::Limit::slope:
        return tr("%1° too steep").arg(miss.missing_deg, 0, 'f', 1);
    case check::Limit::step:
        return tr("a step %1 too high").arg(missing);
    case check::Limit::width:
        return tr("%1 too narrow").arg(missing);
    case check::Limit::fall:
        return tr("a fall %1 too deep").arg(missing);
    case check::Limit::item:
        return tr("something is wanted to get by");
    }
    return {};
}

namespace {

/// The element that stands at a place, or a new place put there.
ItemId end_at(Level& level, int layer, const Vec3& at) {
    constexpr double k_same_m = 0.3;
    for (const Item* item : elements_of(level))
        if (glm::length(met_at(level, *item->element()) - at) < k_same_m) return item->id;
    const ItemId id = edit::fresh_id(level, "p");
    Item item{id,
              tr("Place %1").arg(QString::fromStdString(id.value).mid(1)).toStdString(),
              false,
              Element{"place", at, 0, {}},
              {}};
    level = edit::with_item(level, layer, std::move(item));
    return id;
}

} // namespace

void claim_places(Session& session, const Vec3& from, const Vec3& to, bool reached) {
    Level level = session.stored_level();
    Claim claim;
    claim.kind = reached ? Claim::Kind::reaches : Claim::Kind::not_reaches;
    claim.from = end_at(level, session.layer(), from), claim.to = end_at(level, session.layer(), to);
    claim.id = edit::fresh_claim_id(level);
    claim.name = claim_text(claim.kind, QString::fromStdString(find_item(level, claim.from)->title()),
                            QString::fromStdString(find_item(level, claim.to)->title()))
                     .toStdString();
    level = edit::with_claim(level, claim);
    session.apply(std::move(level), tr("Claim"));
}

QString item_name(const Level& level, const ItemId& id) {
    const Item* item = find_item(level, id);
    return item ? QString::fromStdString(item->title()) : QString::fromStdString(id.value);
}

QString claim_name(const Level& level, const ClaimId& id) {
    for (const Claim& claim : level.claims)
        if (claim.id == id && !claim.name.empty()) return QString::fromStdString(claim.name);
    return QString::fromStdString(id.value);
}

} // namespace rubble::app
