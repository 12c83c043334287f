#pragma once

#include <QDialog>
#include <QListWidget>
#include <QTextBlock>
#include <QTextBrowser>

#include "commands/commands.h"

namespace rubble::app {

/// The user's guide in a window of its own, with its headings beside it, and at its end all commands with the
/// keys that they have now.
class Guide : public QDialog {
    Q_OBJECT
public:
    Guide(const Commands& commands, QWidget& window);

    /// Opens it at the first heading that begins with a text; at its beginning where none does.
    void open_at(const QString& heading);
    /// Opens it where something is told of, by what it is called: at a heading, else at the first paragraph
    /// that has all of it, else at the one with most of its words. False where nothing is.
    bool open_about(const QString& what);
    static QString keys_heading();
    /// What stands in view at the top.
    QString heading_shown() const;

private:
    void fill();
    void show_heading(int row);
    void show_block(const QTextBlock& block);
    QTextBlock block_about(const QString& what) const;

    const Commands& commands_;
    QListWidget* headings_ = nullptr;
    QTextBrowser* text_ = nullptr;
};

} // namespace rubble::app
