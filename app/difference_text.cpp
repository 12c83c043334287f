#include "difference_text.h"

#include <QStringList>

#include "level/diff.h"
#include "text.h"

namespace rubble::app {

namespace {

constexpr int k_most_names = 12;

/// "Different: Crate, Dock"; empty where there is none.
QString names_of(const QString& what, const std::unordered_set<ItemId>& ids, const Level& level) {
    QStringList names;
    for (const ItemId& id : ids)
        if (const Item* item = find_item(level, id)) names << QString::fromStdString(item->title());
    names.sort();
    if (names.size() > k_most_names)
        names = names.mid(0, k_most_names) << tr("and %1 more").arg(names.size() - k_most_names);
    return names.isEmpty() ? QString() : what + QStringLiteral(" ") + names.join(QStringLiteral(", "));
}

} // namespace

QString difference_text(const Level& here, const Level& in_file) {
    const Diff diff = difference(here, in_file);
    if (diff.empty()) return tr("Both hold the same.");
    QStringList lines{names_of(tr("Only in the file:"), diff.added, in_file),
                      names_of(tr("Only here:"), diff.removed, here),
                      names_of(tr("Different:"), diff.changed, here)};
    if (diff.order) lines << tr("The order of items differs.");
    if (diff.claims) lines << tr("Claims or the level's own values differ.");
    lines.removeAll(QString());
    return lines.join(QStringLiteral("\n"));
}

} // namespace rubble::app
