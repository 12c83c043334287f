#pragma once

#include <functional>
#include <vector>

#include <QAction>
#include <QKeySequence>
#include <QMenuBar>
#include <QString>
#include <QWidget>

namespace rubble::app {

/// The menus of the window, from left to right.
enum class Menu { file, edit, view, level, check, help };
inline constexpr int menus = 6;
QString menu_name(Menu menu);

/// Everything one can ask of a window by name, by key or from its menus. Whoever shows commands reads them
/// here.
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
        Menu menu;
        QString submenu; ///< empty: it stands in the menu itself
        int section;     ///< those of one stand together, between lines
    };

    /// What is added from now on stands in this menu, in a section of its own.
    void begin(Menu menu, const QString& submenu = {});
    /// With the key the user gave it, where they did.
    QAction* add(const QString& id, const QString& name, const QKeySequence& key, std::function<void()> run);
    /// The same, but its key works only while one of these has the focus.
    void add_within(const std::vector<QWidget*>& widgets, const QString& id, const QString& name,
                    const QKeySequence& key, std::function<void()> run);
    const std::vector<Command>& all() const { return all_; }
    const Command* find(const QString& id) const;
    /// Those whose name or key has every word of `text` in it, best first: names that begin with it.
    std::vector<const Command*> matching(const QString& text) const;
    /// All commands in the menus where they belong.
    void fill(QMenuBar& bar) const;

    /// Gives a command another key, for this and all later sessions; none where `key` is empty. Where another
    /// command has it, nothing changes and that one is given back.
    const Command* change_key(const QString& id, const QKeySequence& key);

signals:
    void keysChanged();

private:
    QWidget& window_;
    std::function<bool()> asleep_;
    std::vector<Command> all_;
    Menu menu_ = Menu::file;
    QString submenu_;
    int section_ = 0;
};

} // namespace rubble::app
