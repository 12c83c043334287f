#pragma once

#include <QLabel>
#include <QLineEdit>
#include <QListWidget>

#include "commands/commands.h"

namespace rubble::app {

/// Finds a command by a part of its name and runs it; also the place to give it another key.
class CommandFinder : public QFrame {
    Q_OBJECT
public:
    CommandFinder(Commands& commands, QWidget& window);
    void open();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void fill();
    void run_chosen();
    void begin_key_change();
    /// The next key pressed becomes the command's; Escape leaves it, Delete takes it away.
    void take_key(const QKeyEvent& event);
    const Commands::Command* chosen() const;

    Commands& commands_;
    QLineEdit* text_ = nullptr;
    QListWidget* list_ = nullptr;
    QLabel* hint_ = nullptr;
    std::vector<const Commands::Command*> found_;
    bool takes_key_ = false;
};

} // namespace rubble::app
