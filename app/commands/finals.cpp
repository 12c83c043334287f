#include "commands/finals.h"

#include "edit/finals.h"
#include "edit/kits.h"
#include "numbers.h"

namespace rubble::app {

void lay_finals(Session& session) {
    const auto kit = find_kit(session.project(), session.looking().kit());
    if (!kit)
        return emit session.message(Session::tr(
            "Bring the models in first, and choose their kit: it is the one whose pieces are laid"));
    edit::LaidFinals laid = edit::with_finals(session.stored_level(), *kit);
    if (laid.laid.empty())
        return emit session.message(
            Session::tr("No brush is called like a piece of %1").arg(QString::fromStdString(kit->name)));
    int other = 0;
    for (const edit::LaidFinal& one : laid.laid) {
        constexpr double k_fits_m = 0.05;
        const Vec3 off = glm::abs(one.size_off_m);
        other += std::max({off.x, off.y, off.z}) > k_fits_m;
    }
    const QString text = Session::tr("%1 laid, %2 of another size, %3 that nothing is called like")
                             .arg(counted(int(laid.laid.size()), Session::tr("final"), Session::tr("finals")))
                             .arg(other)
                             .arg(laid.unknown.size());
    session.apply(std::move(laid.level), Session::tr("Lay finals"));
    emit session.message(text);
}

void toggle_finals(Session& session) {
    const bool shown = edit::shows_finals(session.stored_level());
    Level next = edit::with_finals_shown(session.stored_level(), !shown);
    if (next == session.stored_level()) return emit session.message(Session::tr("No final was laid yet"));
    session.apply(std::move(next),
                  shown ? Session::tr("Show the grey ones") : Session::tr("Show the finals"));
}

} // namespace rubble::app
