#include "commands/commands.h"

#include <algorithm>
#include <map>

#include <QSettings>

namespace rubble::app {

namespace {

QString setting_of(const QString& id) { return QStringLiteral("keys/") + id; }

} // namespace

QString menu_name(Menu menu) {
    switch (menu) {
    case Menu::file:
        return Commands::tr("&File");
    case Menu::edit:
        return Commands::tr("&Edit");
    case Menu::view:
        return Commands::tr("&View");
    case Menu::level:
        return Commands::tr("&Level");
    case Menu::check:
        return Commands::tr("&Check");
    case Menu::help:
        return Commands::tr("&Help");
    }
    return {};
}

Commands::Commands(QWidget& window, std::function<bool()> asleep)
    : QObject(&window),
      window_(window),
      asleep_(std::move(asleep)) {}

void Commands::begin(Menu menu, const QString& submenu) {
    menu_ = menu;
    submenu_ = submenu;
    ++section_;
}

QAction* Commands::add(const QString& id, const QString& name, const QKeySequence& key,
                       std::function<void()> run) {
    auto* action = new QAction(name, this);
    const QVariant own = QSettings().value(setting_of(id));
    action->setShortcut(own.isValid() ? QKeySequence(own.toString(), QKeySequence::PortableText) : key);
    action->setShortcutContext(Qt::WindowShortcut);
    connect(action, &QAction::triggered, this, [this, run = std::move(run)] {
        if (!asleep_()) run();
    });
    window_.addAction(action);
    all_.push_back({id, name, key, action, menu_, submenu_, section_});
    return action;
}

void Commands::add_within(const std::vector<QWidget*>& widgets, const QString& id, const QString& name,
                          const QKeySequence& key, std::function<void()> run) {
    QAction* action = add(id, name, key, std::move(run));
    window_.removeAction(action);
    action->setShortcutContext(Qt::WidgetShortcut);
    for (QWidget* widget : widgets) widget->addAction(action);
}

void Commands::fill(QMenuBar& bar) const {
    for (int menu = 0; menu < menus; ++menu) {
        QMenu* top = bar.addMenu(menu_name(Menu(menu)));
        std::map<QString, QMenu*> submenus;
        int section = -1;
        for (const Command& command : all_) {
            if (command.menu != Menu(menu)) continue;
            QMenu*& submenu = submenus[command.submenu];
            if (!submenu && !command.submenu.isEmpty()) submenu = top->addMenu(command.submenu);
            if (command.submenu.isEmpty()) {
                if (section >= 0 && section != command.section) top->addSeparator();
                section = command.section;
                top->addAction(command.action);
            } else {
                submenu->addAction(command.action);
            }
        }
    }
}

const Commands::Command* Commands::find(const QString& id) const {
    const auto at =
        std::find_if(all_.begin(), all_.end(), [&](const Command& command) { return command.id == id; });
    return at == all_.end() ? nullptr : &*at;
}

std::vector<const Commands::Command*> Commands::matching(const QString& text) const {
    const QStringList words = text.simplified().toLower().split(' ', Qt::SkipEmptyParts);
    std::vector<const Command*> begins, contains;
    for (const Command& command : all_) {
        const QString name = command.name.toLower();
        const QString all = name + ' ' + command.action->shortcut().toString().toLower();
        if (!std::all_of(words.begin(), words.end(), [&](const QString& word) { return all.contains(word); }))
            continue;
        (!words.isEmpty() && name.startsWith(words[0]) ? begins : contains).push_back(&command);
    }
    begins.insert(begins.end(), contains.begin(), contains.end());
    return begins;
}

const Commands::Command* Commands::change_key(const QString& id, const QKeySequence& key) {
    for (const Command& command : all_)
        if (command.id != id && !key.isEmpty() && command.action->shortcut() == key) return &command;
    const Command* command = find(id);
    if (!command) return nullptr;
    command->action->setShortcut(key);
    if (key == command->standard)
        QSettings().remove(setting_of(id));
    else
        QSettings().setValue(setting_of(id), key.toString(QKeySequence::PortableText));
    emit keysChanged();
    return nullptr;
}

} // namespace rubble::app
