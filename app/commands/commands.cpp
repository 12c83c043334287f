#include "commands/commands.h"

namespace rubble::app {

Commands::Commands(QWidget& window, std::function<bool()> asleep)
    : QObject(&window),
      window_(window),
      asleep_(std::move(asleep)) {}

void Commands::add(const QString& id, const QString& name, const QKeySequence& key,
                   std::function<void()> run) {
    auto* action = new QAction(name, this);
    action->setShortcut(key);
    action->setShortcutContext(Qt::WindowShortcut);
    connect(action, &QAction::triggered, this, [this, run = std::move(run)] {
        if (!asleep_()) run();
    });
    window_.addAction(action);
    all_.push_back({id, name, key, action});
}

} // namespace rubble::app
