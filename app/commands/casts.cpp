#include "commands/casts.h"

#include "casts/cast_dialog.h"

namespace rubble::app {

bool cast_level(Session& session, QWidget& window) {
    CastDialog dialog(session, &window);
    if (dialog.exec() != QDialog::Accepted || !dialog.taken()) return false;
    const cast::Cast& cast = *dialog.taken();
    const QString name =
        Session::tr("%1, seed %2").arg(QString::fromStdString(dialog.rules().name)).arg(cast.seed);
    std::vector<ItemId> ids;
    session.apply(cast::taken_over(session.stored_level(), cast, name.toStdString(), ids),
                  Session::tr("Cast a level"));
    session.select(std::move(ids));
    return true;
}

} // namespace rubble::app
