#include <cmath>

#include <QGridLayout>

#include "commands/massing.h"
#include "facts/pages.h"
#include "numbers.h"
#include "window/wrapping_button.h"

namespace rubble::app {

namespace {

/// Buttons side by side.
void add_pair(Page& page, const QString& left, std::function<void()> act_left, const QString& right,
              std::function<void()> act_right) {
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    for (auto& [text, act] : {std::pair{left, act_left}, std::pair{right, act_right}}) {
        auto* button = new WrappingButton(text);
        button->setAccessibleName(text);
        row->addWidget(button);
        QObject::connect(button, &QPushButton::clicked, &page, act);
    }
    page.column().addLayout(row);
}

/// How large the marked area is, and what its slope is to the character.
QString area_text(const Session& session, const Brush& mass) {
    const edit::MassArea* area = session.area();
    if (!area || area->levels.empty()) return {};
    const double cell = mass.cells.cell_m;
    QString text = Facts::tr("%1 marked, %2 m²")
                       .arg(counted(int(area->levels.size()), Facts::tr("cell"), Facts::tr("cells")),
                            plain_number(double(area->levels.size()) * cell * cell));
    const auto corners = edit::surface_corners(mass.cells, *area, area->levels.begin()->first);
    const Vec3 normal =
        mass.place.direction(glm::normalize(glm::cross(corners[1] - corners[0], corners[2] - corners[0])));
    const double deg = degrees(std::acos(std::min(1.0, std::abs(normal.z))));
    if (deg > 89.95) return text + Facts::tr(". A wall");
    const Character c = session.character();
    const QString who = session.character_name();
    if (deg < 0.05) {
        const double z = mass.place.to_level(corners[0] * cell).z;
        return text + Facts::tr(". Level, at %1").arg(metres_text(z));
    }
    const QString angle = QString::number(deg, 'f', 1) + QStringLiteral("°");
    return text + (deg <= c.max_slope_deg + 0.1 ? Facts::tr(". Rises %1: %2 walks it").arg(angle, who)
                                                : Facts::tr(". Rises %1: too steep for %2 (%3°)")
                                                      .arg(angle, who)
                                                      .arg(c.max_slope_deg, 0, 'f', 0));
}

} // namespace

void add_mass(Page& page, const std::function<Brush()>& mass) {
    Session& session = page.session();
    QLabel* size = page.add_text({}, "plain");
    page.on_refresh([=] {
        const Brush now = mass();
        size->setText(Facts::tr("Cells of %1 · %2 × %3 × %4")
                          .arg(metres_text(now.cells.cell_m), metres_text(now.size.x),
                               metres_text(now.size.y), metres_text(now.size.z)));
    });
    add_pair(
        page, Facts::tr("Finer cells"), [&session] { finer_cells(session); }, Facts::tr("Coarser cells"),
        [&session] { coarser_cells(session); });
    QLabel* marked = page.add_text({}, "meaning");
    page.on_refresh([=, &session] {
        marked->setText(session.area()
                            ? area_text(session, mass())
                            : Facts::tr("Shift+B marks areas on it, to raise, sink and slope them"));
    });
    if (session.area()) {
        add_pair(
            page, Facts::tr("Raise"), [&session] { raise_area(session, 1); }, Facts::tr("Sink"),
            [&session] { raise_area(session, -1); });
        add_pair(
            page, Facts::tr("Mark alike"), [&session] { mark_alike(session); }, Facts::tr("Dig through"),
            [&session] { dig_area(session); });
        page.add_button(Facts::tr("Smooth into a ramp"), [&session] { smooth_area(session); });
    }
    page.add_button(Facts::tr("Turn into brushes"), [&session] { mass_to_brushes(session); });
}

} // namespace rubble::app
