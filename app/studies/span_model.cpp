#include "studies/span_model.h"

#include <set>

#include "base/tolerance.h"
#include "numbers.h"
#include "theme.h"
#include "view/overlay.h"

namespace rubble::app {

using check::SpanFacts;

namespace {

QString grade_text(check::Grade grade) {
    return grade == check::Grade::easy   ? SpanModel::tr("easy")
           : grade == check::Grade::fair ? SpanModel::tr("fair")
                                         : SpanModel::tr("tight");
}

QString kind_text(check::LinkKind kind) {
    switch (kind) {
    case check::LinkKind::drop:
        return SpanModel::tr("drop");
    case check::LinkKind::step_off:
        return SpanModel::tr("step off");
    case check::LinkKind::jump:
        return SpanModel::tr("jump");
    case check::LinkKind::further_jump:
        return SpanModel::tr("further jump");
    case check::LinkKind::pull_up:
        return SpanModel::tr("pull-up");
    }
    return {};
}

QString miss_text(const SpanFacts& facts) {
    return facts.miss == SpanFacts::Miss::fatal  ? SpanModel::tr("death")
           : facts.miss == SpanFacts::Miss::trap ? SpanModel::tr("no way back")
                                                 : SpanModel::tr("%1 s").arg(facts.miss_s, 0, 'f', 1);
}

/// What sorting goes by.
double miss_number(const SpanFacts& facts) {
    return facts.miss == SpanFacts::Miss::fatal  ? 1e9
           : facts.miss == SpanFacts::Miss::trap ? 1e8
                                                 : facts.miss_s;
}

double least_margin(const check::Span& span) {
    return span.rise_m > tolerance::feet_m ? std::min(span.margin_pct, span.rise_margin_pct)
                                           : span.margin_pct;
}

QString text_of(const SpanModel::Row& row, int column) {
    const check::Span& span = row.span;
    const auto metres = [](double m) { return QStringLiteral("%1").arg(m, 0, 'f', 2); };
    switch (column) {
    case SpanModel::grade:
        return grade_text(span.grade);
    case SpanModel::kind:
        return kind_text(span.kind);
    case SpanModel::where:
        return row.where;
    case SpanModel::gap:
        return metres(span.gap_m);
    case SpanModel::rise:
        return metres(span.rise_m);
    case SpanModel::margin:
        return QStringLiteral("%1").arg(least_margin(span), 0, 'f', 0);
    case SpanModel::run_up:
        return metres(span.run_up_m);
    default:
        break;
    }
    if (!row.facts) return QStringLiteral("…");
    const SpanFacts& facts = *row.facts;
    switch (column) {
    case SpanModel::press:
        return facts.forgiven_ms ? QStringLiteral("%1").arg(*facts.forgiven_ms, 0, 'f', 0)
                                 : QStringLiteral("–");
    case SpanModel::turn:
        return QStringLiteral("%1").arg(facts.forgiven_deg, 0, 'f', 0);
    case SpanModel::landing:
        return metres(facts.landing_depth_m);
    case SpanModel::clearance:
        return facts.clearance_m ? metres(*facts.clearance_m) : QStringLiteral("–");
    case SpanModel::seen:
        return facts.seen ? SpanModel::tr("seen") : SpanModel::tr("blind");
    default:
        return miss_text(facts);
    }
}

double number_of(const SpanModel::Row& row, int column) {
    constexpr double k_unknown = -1;
    const check::Span& span = row.span;
    switch (column) {
    case SpanModel::grade:
        return -least_margin(span);
    case SpanModel::kind:
        return int(span.kind);
    case SpanModel::gap:
        return span.gap_m;
    case SpanModel::rise:
        return span.rise_m;
    case SpanModel::margin:
        return least_margin(span);
    case SpanModel::run_up:
        return span.run_up_m;
    default:
        break;
    }
    if (!row.facts) return k_unknown;
    switch (column) {
    case SpanModel::press:
        return row.facts->forgiven_ms.value_or(1e9);
    case SpanModel::turn:
        return row.facts->forgiven_deg;
    case SpanModel::landing:
        return row.facts->landing_depth_m;
    case SpanModel::clearance:
        return row.facts->clearance_m.value_or(1e9);
    case SpanModel::seen:
        return row.facts->seen;
    default:
        return miss_number(*row.facts);
    }
}

QString name_under(const Level& level, const ItemId& id, const Vec3& at) {
    if (const Item* item = find_item(level, id)) return QString::fromStdString(item->title());
    return QStringLiteral("%1, %2")
        .arg(at.x, 0, 'f', 1)
        .arg(level.frame == Frame::side ? at.z : at.y, 0, 'f', 1);
}

} // namespace

void SpanModel::set_rows(std::vector<Row> rows) {
    beginResetModel();
    rows_ = std::move(rows);
    endResetModel();
}

void SpanModel::set_facts(int row, const check::SpanFacts& facts) {
    if (row < 0 || size_t(row) >= rows_.size()) return;
    rows_[size_t(row)].facts = facts;
    emit dataChanged(index(row, 0), index(row, columns - 1));
}

int SpanModel::rowCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : int(rows_.size()); }
int SpanModel::columnCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : int(columns); }

QVariant SpanModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || size_t(index.row()) >= rows_.size()) return {};
    const Row& row = rows_[size_t(index.row())];
    if (role == Qt::DisplayRole) return text_of(row, index.column());
    if (role == Qt::UserRole)
        return index.column() == where ? QVariant(row.where) : QVariant(number_of(row, index.column()));
    if (role == Qt::TextAlignmentRole)
        return int(index.column() <= where ? Qt::AlignLeft | Qt::AlignVCenter
                                           : Qt::AlignRight | Qt::AlignVCenter);
    if (role == Qt::ForegroundRole && index.column() == grade) return grade_color(row.span.grade).darker(130);
    return {};
}

QVariant SpanModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal || (role != Qt::DisplayRole && role != Qt::ToolTipRole)) return {};
    struct Head {
        QString text, tip;
    };
    const Head heads[] = {
        {tr("Grade"), tr("By the smaller margin")},
        {tr("Kind"), tr("How it is crossed")},
        {tr("From → to"), tr("What it leaves, and what it lands on")},
        {tr("Gap m"), tr("Between the edges, where the arc crosses them")},
        {tr("Rise m"), tr("Landing less take-off")},
        {tr("Margin %"), tr("The smaller one of gap and rise")},
        {tr("Press ms"),
         tr("By how much the moment of take-off may be off in all, with the late-jump grace")},
        {tr("Turn °"), tr("By how much the direction may be off in all")},
        {tr("Run-up m"), tr("That is there before the take-off")},
        {tr("Landing m"), tr("How deep the landing is along the way; 8 at most")},
        {tr("Over head m"), tr("Room over the head on the way")},
        {tr("Seen"), tr("Whether the landing is seen from the take-off")},
        {tr("A miss costs"), tr("Seconds until one is back at the take-off, or worse")}};
    return role == Qt::DisplayRole ? heads[section].text : heads[section].tip;
}

bool SpanFilter::filterAcceptsRow(int row, const QModelIndex&) const {
    const auto& rows = static_cast<const SpanModel*>(sourceModel())->rows();
    const SpanModel::Row& one = rows[size_t(row)];
    if (wanted_.grade >= 0 && int(one.span.grade) != wanted_.grade) return false;
    if (wanted_.on_route && !one.on_route) return false;
    if (wanted_.one_way && !one.one_way) return false;
    return !wanted_.deadly || (one.facts && one.facts->miss == SpanFacts::Miss::fatal);
}

std::vector<SpanModel::Row> span_rows(const check::CheckResult& result, const Level& level) {
    std::set<std::pair<int, int>> linked;
    for (const auto& link : result.reach->links) linked.insert({link->from, link->to});
    std::set<const check::Link*> on_routes;
    const auto note = [&](const std::optional<check::Witness>& witness) {
        if (!witness) return;
        for (const auto& leg : witness->legs) on_routes.insert(leg.link.get());
    };
    for (const check::Place& place : result.places) note(place.witness);
    for (const check::ClaimResult& claim : result.claims) note(claim.witness);
    std::vector<SpanModel::Row> rows;
    for (const check::Span& span : result.spans) {
        if (!span.link) continue;
        SpanModel::Row row{span, {}, {}, {}, {}, false, false};
        row.from = item_under(*result.ground, *result.world, span.link->start),
        row.to = item_under(*result.ground, *result.world, span.link->rest);
        row.where = name_under(level, row.from, span.from) + QStringLiteral(" → ") +
                    name_under(level, row.to, span.to);
        row.on_route = on_routes.contains(span.link.get());
        row.one_way = !linked.contains({span.to_ledge, span.from_ledge});
        rows.push_back(std::move(row));
    }
    // Those on routes are found out first, the hardest of them before the others.
    std::stable_sort(rows.begin(), rows.end(), [](const auto& a, const auto& b) {
        return std::tuple(!a.on_route, least_margin(a.span)) < std::tuple(!b.on_route, least_margin(b.span));
    });
    return rows;
}

} // namespace rubble::app
