#pragma once

#include <functional>

#include <QDialog>
#include <QTreeWidget>

#include "commands/commands.h"
#include "settings/preferences.h"

namespace rubble::app {

/// What the user settles for all levels: how the program looks, what the mouse does, the keys of all
/// commands. Each change is in force at once and is kept.
class SettingsDialog : public QDialog {
    Q_OBJECT
public:
    /// `take` puts preferences in force.
    SettingsDialog(Commands& commands, std::function<void(const Preferences&)> take,
                   QWidget* parent = nullptr);

private:
    QWidget* look_page();
    QWidget* mouse_page();
    QWidget* keys_page();
    void change(const std::function<void(Preferences&)>& how);
    void fill_keys();
    void change_key_of(QTreeWidgetItem* row);
    void save_keys();
    void read_keys();

    Commands& commands_;
    std::function<void(const Preferences&)> take_;
    Preferences now_ = kept_preferences();
    QTreeWidget* keys_ = nullptr;
    QString looked_for_;
};

} // namespace rubble::app
