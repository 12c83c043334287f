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

    /// With the key the user gave it, where they did.
    void add(const QString& id, const QString& name, const QKeySequence& key, std::function<void()> run);
    const std::vector<Command>& all() const { return all_; }
    const Command* find(const QString& id) const;
    /// Those whose name or key has every word of `text` in it, best first: names that begin with it.
    std::vector<const Command*> matching(const QString& text) const;

    /// Gives a command another key, for this and all later sessions; none where `key` is empty. Where another
    /// command has it, nothing changes and that one is given back.
    const Command* change_key(const QString& id, const QKeySequence& key);

signals:
    void keysChanged();

private:
    QWidget& window_;
    std::function<bool()> asleep_;
    std::vector<Command> all_;
};

} // namespace rubble::app
