#include <cmath>
#include <limits>

#include "commands/reshaping.h"
#include "edit/body.h"
#include "facts/pages.h"
#include "numbers.h"
#include "window/number_field.h"
#include "window/wrapping_button.h"

namespace rubble::app {

namespace {

constexpr double k_mixed = std::numeric_limits<double>::quiet_NaN();

QString counts(const Picks& picks) {
    QStringList parts;
    if (!picks.points.empty())
        parts << counted(int(picks.points.size()), Facts::tr("point"), Facts::tr("points"));
    if (!picks.edges.empty())
        parts << counted(int(picks.edges.size()), Facts::tr("edge"), Facts::tr("edges"));
    if (!picks.faces.empty())
        parts << counted(int(picks.faces.size()), Facts::tr("face"), Facts::tr("faces"));
    return parts.join(QStringLiteral(", "));
}

/// One coordinate of all picked points, or "mixed".
double coordinate(const Session& session, int axis) {
    const auto places = picked_places(session);
    if (places.empty()) return 0;
    for (const Vec3& p : places)
        if (std::abs(p[axis] - places[0][axis]) > 1e-6) return k_mixed;
    return std::round(places[0][axis] * 1e6) / 1e6;
}

/// What the picked faces and edges are to the character.
QString meaning(const Session& session) {
    const Picks& picks = session.picks();
    if (picks.empty()) return {};
    const Brush& body = *session.body();
    const Character c = session.character();
    const QString who = session.character_name();
    if (picks.faces.size() == 1) {
        const Vec3 normal =
            body.place.direction(normal_of(body.corners, body.faces[size_t(*picks.faces.begin())]));
        if (normal.z <= 1e-6) return Facts::tr("A wall or an underside: nobody stands on it");
        const double deg = degrees(std::acos(std::min(normal.z, 1.0)));
        const QString angle = QString::number(deg, 'f', 1) + QStringLiteral("°");
        if (deg < 0.05) return Facts::tr("Level: %1 stands on it").arg(who);
        return deg <= c.max_slope_deg + 0.1 ? Facts::tr("Rises %1: %2 walks it").arg(angle, who)
                                            : Facts::tr("Rises %1: too steep for %2 (%3°)")
                                                  .arg(angle, who)
                                                  .arg(c.max_slope_deg, 0, 'f', 0);
    }
    const auto places = picked_places(session);
    if (places.size() != 2) return {};
    const Vec3 way = places[1] - places[0];
    const double rise = std::abs(way.z), run = glm::length(flat(way));
    if (rise < 1e-6) return Facts::tr("%1 long, level").arg(metres_text(run));
    if (run < 1e-6) return Facts::tr("%1 high, upright").arg(metres_text(rise));
    return Facts::tr("%1 long, rises %2 at %3°")
        .arg(metres_text(glm::length(way)), metres_text(rise))
        .arg(degrees(std::atan2(rise, run)), 0, 'f', 1);
}

/// A number with the button that uses it.
void add_action(Page& page, const QString& text, const QString& unit, double first, double step,
                std::function<void(double)> act) {
    auto* line = new QHBoxLayout;
    line->setSpacing(6);
    auto* button = new WrappingButton(text);
    auto* field = new NumberField(text, step, unit);
    field->show_value(first);
    line->addWidget(button, 1);
    line->addWidget(field);
    page.column().addLayout(line);
    auto value = std::make_shared<double>(first);
    QObject::connect(field, &NumberField::changedTo, &page, [value](double to) { *value = to; });
    QObject::connect(button, &QPushButton::clicked, &page, [act = std::move(act), value] { act(*value); });
}

/// Places between 0 and 1 that part something into equal pieces.
std::vector<double> equal_parts(double count) {
    const int n = std::clamp(int(std::lround(count)), 2, 64);
    std::vector<double> out;
    for (int i = 1; i < n; ++i) out.push_back(double(i) / n);
    return out;
}

} // namespace

void fill_picks(Page& page) {
    Session& session = page.session();
    const QString metres = Facts::tr("m"), degree = QStringLiteral("°");
    const double grid = session.grid_m();
    page.add_heading(counts(session.picks()));
    page.add_text(Facts::tr("of %1").arg(QString::fromStdString(session.selected()->title())));
    const QStringList axes{Facts::tr("x"), Facts::tr("y"), Facts::tr("z")};
    for (int axis = 0; axis < 3; ++axis) {
        if (!is_asked(session.level().frame, axis)) continue;
        NumberRow row{axes[axis],
                      metres,
                      grid,
                      [&session, axis] { return coordinate(session, axis); },
                      [&session, axis](double to) { align_picks(session, axis, to); },
                      axis < 2 ? std::function<QString()>{} : [&session] { return meaning(session); }};
        row.change_by = [&session, axis](double by) {
            Vec3 way(0);
            way[axis] = by;
            move_picks(session, way);
        };
        page.add_number(std::move(row));
    }
    const Picks& picks = session.picks();
    if (!picks.faces.empty()) {
        add_action(page, Facts::tr("Push by"), metres, grid, grid,
                   [&session](double by) { push_faces(session, by); });
        add_action(page, Facts::tr("Inset by"), metres, grid / 2, grid / 2,
                   [&session](double by) { inset_faces(session, by); });
    }
    if (!picks.edges.empty()) {
        add_action(page, Facts::tr("Split ring in"), Facts::tr("parts"), 2, 1,
                   [&session](double n) { split_rings(session, equal_parts(n)); });
        add_action(page, Facts::tr("Split ring at"), Facts::tr("%"), 50, 5, [&session](double percent) {
            split_rings(session, {std::clamp(percent / 100, 0.001, 0.999)});
        });
        constexpr int k_segments = 6;
        add_action(page, Facts::tr("Round by"), metres, grid / 2, grid / 4,
                   [&session](double width) { round_edges(session, width, k_segments); });
        add_action(page, Facts::tr("Chamfer by"), metres, grid / 2, grid / 4,
                   [&session](double width) { round_edges(session, width, 1); });
    }
    add_action(page, Facts::tr("Turn by"), degree, session.project().turn_step_deg,
               session.project().turn_step_deg, [&session](double deg) { turn_picks(session, 2, deg); });
    if (has_hinge(picks))
        add_action(page, Facts::tr("Turn on the edge by"), degree, session.project().turn_step_deg,
                   session.project().turn_step_deg, [&session](double deg) { turn_on_hinge(session, deg); });
    if (has_pivot(picks))
        add_action(page,
                   picks.edges.empty() ? Facts::tr("Turn brush about it by")
                                       : Facts::tr("Tip brush over it by"),
                   degree, session.project().turn_step_deg, session.project().turn_step_deg,
                   [&session](double deg) { turn_about_pick(session, deg); });
    if (picks.faces.size() > 1 || !picks.edges.empty())
        page.add_button(Facts::tr("Join faces in one plane"), [&session] { join_faces(session); });
    if (picks.faces.size() > 1)
        page.add_button(Facts::tr("Straighten into one face"), [&session] { straighten_faces(session); });
    add_action(page, Facts::tr("Weld within"), metres, 0.05, 0.05,
               [&session](double within) { weld_points(session, within); });
}

} // namespace rubble::app
