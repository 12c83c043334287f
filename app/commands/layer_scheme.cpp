#include "commands/layer_scheme.h"

#include <QMessageBox>

#include "edit/layer_scheme.h"

namespace rubble::app {

namespace {

QString words_of(const edit::SchemeChange& change) {
    using What = edit::SchemeChange::What;
    const QString name = QString::fromStdString(change.name);
    switch (change.what) {
    case What::comes:
        return Session::tr("%1 comes, bare").arg(name);
    case What::name:
        return Session::tr("%1: its name").arg(name);
    case What::cell:
        return Session::tr("%1: the size of its cells, and with it what is painted").arg(name);
    case What::solid:
        return Session::tr("%1: whether it is solid").arg(name);
    case What::depth:
        return Session::tr("%1: its depth").arg(name);
    case What::opacity:
        return Session::tr("%1: its opacity").arg(name);
    case What::parallax:
        return Session::tr("%1: how far it goes along").arg(name);
    }
    return name;
}

} // namespace

void offer_layer_scheme(Session& session, QWidget& window) {
    const auto changes = edit::scheme_changes(session.project(), session.stored_level());
    if (changes.empty()) return;
    QStringList lines;
    for (const auto& change : changes) lines << words_of(change);
    const auto answer = QMessageBox::question(
        &window, Session::tr("The project's layers"),
        Session::tr("The project's layers are not those of this level. Taking them over changes:\n\n%1")
            .arg(lines.join(QStringLiteral("\n"))),
        QMessageBox::Apply | QMessageBox::Ignore, QMessageBox::Apply);
    if (answer == QMessageBox::Apply)
        session.apply(edit::with_scheme_of(session.project(), session.stored_level()),
                      Session::tr("Take over the project's layers"));
}

void make_layer_scheme(Session& session) {
    session.apply(edit::with_scheme_from(session.project(), session.stored_level()),
                  Session::tr("Make these the project's layers"));
    emit session.message(Session::tr("Levels that are opened from now on are asked to have these layers"));
}

} // namespace rubble::app
