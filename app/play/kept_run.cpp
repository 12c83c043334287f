#include "play/kept_run.h"

#include <QDateTime>

namespace rubble::app {

std::vector<const Item*> refuted_by(const motion::Recording& recording, const check::CheckResult& result,
                                    const Level& level) {
    const motion::State end = motion::replayed(*result.world, result.character, recording);
    std::vector<const Item*> out;
    for (const check::Place& place : result.places) {
        const Item* item = find_item(level, place.item);
        if (item && place.reached == check::Reached::no &&
            check::has_thing(*result.world, end, result.character, item->element()->at))
            out.push_back(item);
    }
    return out;
}

QString kept_run_path(const Document& document, const Level& level) {
    if (document.folder.empty()) return {};
    const QString name = QString::fromStdString(level.name).simplified().replace(' ', '-').toLower();
    const QString when = QDateTime::currentDateTime().toString(QStringLiteral("yyyyMMdd-hhmmss"));
    return QStringLiteral("%1/runs/%2-%3.run.json").arg(QString::fromStdString(document.folder), name, when);
}

} // namespace rubble::app
