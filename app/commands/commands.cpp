#include "commands/commands.h"

#include <algorithm>

#include <QSettings>

namespace rubble::app {

namespace {

QString setting_of(const QString& id) { return QStringLiteral("keys/") + id; }

} // namespace

Commands::Commands(QWidget& window, std::function<bool()> asleep)
    : QObject(&window),
      window_(window),
      asleep_(std::move(asleep)) {}

void Commands::add(const QString& id, const QString& name, const QKeySequence& key,
                   std::function<void()> run) {
    auto* action = new QAction(name, this);
    const QVariant own = QSettings().value(setting_of(id));
    action->setShortcut(own.isValid() ? QKeySequence(own.toString(), QKeySequence::PortableText) : key);
    action->setShortcutContext(Qt::WindowShortcut);
    connect(action, &QAction::triggered, this, [this, run = std::move(run)] {
        if (!asleep_()) run();
    });
    window_.addAction(action);
    all_.push_back({id, name, key, action});
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
