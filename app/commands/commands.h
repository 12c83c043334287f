#pragma once

#include <functional>
#include <vector>

#include <QAction>
#include <QKeySequence>
#include <QString>
#include <QWidget>

namespace rubble::app {

/// Everything one can ask of a window by name or by key.
class Commands : public QObject {
    Q_OBJECT
public:
    /// While `asleep` says so no command runs: every key belongs to the figure that walks.
    Commands(QWidget& window, std::function<bool()> asleep);

    struct Command {
        QString id;   ///< stays the same in every language
        QString name; ///< as it is looked for
        QKeySequence standard;
        QAction* action;
    };

    void add(const QString& id, const QString& name, const QKeySequence& key, std::function<void()> run);
    const std::vector<Command>& all() const { return all_; }

private:
    QWidget& window_;
    std::function<bool()> asleep_;
    std::vector<Command> all_;
};

} // namespace rubble::app
