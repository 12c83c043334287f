#include "view/band_overlay.h"

#include "level/order.h"
#include "text.h"
#include "theme.h"

namespace rubble::app {

namespace {

QString name_of(const Level& level, const check::Bands& bands, int band) {
    if (band == 0) return tr("1 · at once");
    QStringList names;
    for (const ItemId& id : bands.after[size_t(band)])
        if (const Item* item = find_item(level, id)) names << QString::fromStdString(item->title());
    constexpr int k_most_names = 2;
    if (names.isEmpty()) return QString::number(band + 1);
    if (names.size() > k_most_names)
        names = names.mid(0, k_most_names) << tr("%1 more").arg(names.size() - k_most_names);
    return tr("%1 · after %2").arg(band + 1).arg(names.join(QStringLiteral(", ")));
}

} // namespace

void label_bands(Labels& labels, const Camera& camera, const Level& level, const check::CheckResult& result) {
    if (!result.bands || result.bands->count() < 2) return;
    const check::Bands& bands = *result.bands;
    const check::Ground& ground = *result.ground;
    for (int band = 0; band < bands.count(); ++band) {
        const check::Fragment* largest = nullptr;
        for (const check::Fragment& fragment : ground.fragments)
            if (fragment.ledge >= 0 && bands.of_ledge[size_t(fragment.ledge)] == band &&
                (!largest || fragment.area_m2 > largest->area_m2))
                largest = &fragment;
        if (!largest) continue;
        const Vec3 at = check::place_of(ground, int(largest - ground.fragments.data()));
        if (const auto seen = camera.to_screen(at); seen && camera.holds(at))
            labels.put(*seen, name_of(level, bands, band), color::ink, true);
    }
}

} // namespace rubble::app
