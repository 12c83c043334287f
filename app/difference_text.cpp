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
    QStringList painted;
    for (const auto& layer : here.layers)
        if (diff.painted.contains(layer->id)) painted << QString::fromStdString(layer->name);
    if (!painted.isEmpty()) lines << tr("Painted otherwise: %1").arg(painted.join(QStringLiteral(", ")));
    if (diff.layers) lines << tr("Layers differ.");
    if (diff.claims) lines << tr("Claims differ.");
    if (diff.excuses) lines << tr("Excused findings differ.");
    if (diff.links) lines << tr("Which items are linked copies differs.");
    if (diff.dimensions) lines << tr("Kept dimensions differ.");
    if (diff.underlays) lines << tr("Pictures under the level differ.");
    if (diff.values) lines << tr("The level's own values differ.");
    lines.removeAll(QString());
    return lines.join(QStringLiteral("\n"));
}

namespace {

template <class Ids> QString ids_of(const QString& what, const Ids& ids) {
    QStringList names;
    for (const auto& id : ids) names << QString::fromStdString(id.value);
    return names.isEmpty() ? QString() : what + QStringLiteral(" ") + names.join(QStringLiteral(", "));
}

} // namespace

QString difference_text(const Project& here, const Project& in_file) {
    const ProjectDiff diff = difference(here, in_file);
    if (diff.empty()) return tr("Both hold the same.");
    QStringList lines{ids_of(tr("Characters that differ:"), diff.characters),
                      ids_of(tr("Materials that differ:"), diff.materials)};
    if (diff.grid) lines << tr("Grid, module or turn step differ.");
    if (diff.measures) lines << tr("The agreed measures differ.");
    if (diff.grades) lines << tr("The margins of spans differ.");
    if (diff.kits) lines << tr("Kits or assemblies differ.");
    if (diff.tiles) lines << tr("Tile sheets, pixels per metre or the scheme of layers differ.");
    if (diff.values) lines << tr("The project's own values differ.");
    lines.removeAll(QString());
    return lines.join(QStringLiteral("\n"));
}

} // namespace rubble::app
