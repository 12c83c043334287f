#include "window/guide.h"

#include <QFile>
#include <QHBoxLayout>
#include <QRegularExpression>
#include <QScrollBar>
#include <QTextBlock>

#include "theme.h"

static void load_guide() { Q_INIT_RESOURCE(guide); } // must stand outside of namespaces

namespace rubble::app {

namespace {

QString written_guide() {
    load_guide();
    QFile file(QStringLiteral(":/guide.md"));
    return file.open(QIODevice::ReadOnly) ? QString::fromUtf8(file.readAll()) : QString();
}

/// All commands by menu, as they are called and by which key.
QString table_of_keys(const Commands& commands) {
    QString out = QStringLiteral("\n## %1\n\n").arg(Guide::keys_heading());
    for (int menu = 0; menu < menus; ++menu) {
        out += QStringLiteral("\n### %1\n\n| %2 | %3 |\n|---|---|\n")
                   .arg(menu_name(Menu(menu)).remove('&'), Guide::tr("Command"), Guide::tr("Key"));
        for (const Commands::Command& command : commands.all())
            if (command.menu == Menu(menu))
                out +=
                    QStringLiteral("| %1 | %2 |\n")
                        .arg(command.name,
                             command.action->shortcut().toString(QKeySequence::NativeText).toHtmlEscaped());
    }
    return out;
}

} // namespace

Guide::Guide(const Commands& commands, QWidget& window) : QDialog(&window), commands_(commands) {
    setWindowTitle(tr("Guide"));
    auto* row = new QHBoxLayout(this);
    headings_ = new QListWidget;
    headings_->setAccessibleName(tr("Headings"));
    text_ = new QTextBrowser;
    text_->setAccessibleName(tr("Guide"));
    text_->setFrameShape(QFrame::NoFrame);
    row->addWidget(headings_, 1);
    row->addWidget(text_, 3);
    const int line = fontMetrics().height();
    resize(line * 56, line * 40);
    connect(headings_, &QListWidget::currentRowChanged, this, &Guide::show_heading);
}

QString Guide::keys_heading() { return tr("Keys"); }

void Guide::fill() {
    text_->document()->setMarkdown(written_guide() + table_of_keys(commands_));
    // Paragraphs that touch read as one.
    for (QTextBlock at = text_->document()->begin(); at.isValid(); at = at.next()) {
        QTextBlockFormat air = at.blockFormat();
        air.setBottomMargin(fontMetrics().height() * 0.5);
        QTextCursor(at).setBlockFormat(air);
    }
    const QSignalBlocker block(headings_);
    headings_->clear();
    for (QTextBlock at = text_->document()->begin(); at.isValid(); at = at.next()) {
        const int level = at.blockFormat().headingLevel();
        if (level == 0) continue;
        auto* row = new QListWidgetItem(QString(level > 2 ? 3 : 0, QChar(' ')) + at.text(), headings_);
        row->setData(Qt::UserRole, at.position());
    }
}

void Guide::open_at(const QString& heading) {
    fill(); // keys may have changed
    show();
    raise();
    activateWindow();
    int wanted = 0;
    for (int row = headings_->count(); row-- > 0;)
        if (headings_->item(row)->text().trimmed().startsWith(heading)) wanted = row;
    headings_->setCurrentRow(wanted);
    show_heading(wanted);
    headings_->setFocus();
}

void Guide::show_heading(int row) {
    if (row < 0 || row >= headings_->count()) return;
    text_->setExtraSelections({});
    show_block(text_->document()->findBlock(headings_->item(row)->data(Qt::UserRole).toInt()));
}

void Guide::show_block(const QTextBlock& block) {
    QTextCursor cursor(text_->document());
    cursor.setPosition(text_->document()->characterCount() - 1);
    text_->setTextCursor(cursor); // from below, so that it comes to the top
    cursor.setPosition(block.position());
    text_->setTextCursor(cursor);
    text_->verticalScrollBar()->setValue(text_->verticalScrollBar()->value() + text_->cursorRect().top());
}

QTextBlock Guide::block_about(const QString& what) const {
    static const QRegularExpression k_between(QStringLiteral("[^\\w.]+"));
    QStringList words = what.toLower().split(k_between, Qt::SkipEmptyParts);
    words.removeDuplicates();
    const QString phrase = what.simplified().toLower();
    QTextBlock best;
    double best_score = 0;
    for (QTextBlock at = text_->document()->begin(); at.isValid(); at = at.next()) {
        const QString text = at.text().toLower();
        double score = 0;
        for (const QString& word : words) score += text.contains(word) ? 1.0 / double(words.size()) : 0;
        if (text.contains(phrase)) score += 1;
        if (at.blockFormat().headingLevel() > 0 && score > 0) score += text == phrase ? 1 : 0.2;
        if (score > best_score) best_score = score, best = at;
    }
    constexpr double k_least = 0.5; // half of the words
    return best_score >= k_least ? best : QTextBlock();
}

bool Guide::open_about(const QString& what) {
    fill();
    const QTextBlock block = what.trimmed().isEmpty() ? QTextBlock() : block_about(what);
    if (!block.isValid()) return false;
    show();
    raise();
    activateWindow();
    int row = 0; // the heading that it stands under
    for (int i = 0; i < headings_->count(); ++i)
        if (headings_->item(i)->data(Qt::UserRole).toInt() <= block.position()) row = i;
    {
        const QSignalBlocker still(headings_);
        headings_->setCurrentRow(row);
    }
    show_block(block);
    QTextEdit::ExtraSelection mark;
    mark.cursor = QTextCursor(block);
    mark.cursor.select(QTextCursor::BlockUnderCursor);
    mark.format.setBackground(colors().picked);
    text_->setExtraSelections({mark});
    text_->setFocus();
    return true;
}

QString Guide::heading_shown() const {
    const QListWidgetItem* row = headings_->currentItem();
    return row ? row->text().trimmed() : QString();
}

} // namespace rubble::app
