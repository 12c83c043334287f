#include "window/command_finder.h"

#include <QKeyEvent>
#include <QVBoxLayout>

namespace rubble::app {

CommandFinder::CommandFinder(Commands& commands, QWidget& window) : QFrame(&window), commands_(commands) {
    setProperty("role", "floating");
    setAutoFillBackground(true);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 10, 10, 8);
    text_ = new QLineEdit;
    text_->setAccessibleName(tr("Find a command"));
    text_->setPlaceholderText(tr("Part of a command's name"));
    list_ = new QListWidget;
    list_->setAccessibleName(tr("Commands"));
    list_->setFocusPolicy(Qt::NoFocus);
    hint_ = new QLabel;
    hint_->setProperty("role", "faint");
    hint_->setWordWrap(true);
    column->addWidget(text_);
    column->addWidget(list_);
    column->addWidget(hint_);
    text_->installEventFilter(this);
    connect(text_, &QLineEdit::textChanged, this, &CommandFinder::fill);
    connect(list_, &QListWidget::itemClicked, this, &CommandFinder::run_chosen);
    hide();
}

void CommandFinder::open() {
    const int line = fontMetrics().height();
    const QSize size(line * 26, line * 24);
    const QWidget& window = *parentWidget();
    setGeometry((window.width() - size.width()) / 2, line * 5, size.width(),
                std::min(size.height(), window.height() - line * 7));
    text_->clear();
    takes_key_ = false;
    fill();
    show();
    raise();
    text_->setFocus();
}

void CommandFinder::fill() {
    found_ = commands_.matching(text_->text());
    list_->clear();
    for (const Commands::Command* command : found_) {
        const QString key = command->action->shortcut().toString(QKeySequence::NativeText);
        auto* row = new QListWidgetItem(list_);
        auto* line = new QWidget;
        auto* parts = new QHBoxLayout(line);
        parts->setContentsMargins(6, 2, 10, 2);
        auto* keys = new QLabel(key);
        keys->setProperty("role", "faint");
        parts->addWidget(new QLabel(command->name), 1);
        parts->addWidget(keys);
        row->setSizeHint(line->sizeHint() + QSize(0, 10)); // with the padding of a row
        row->setData(Qt::AccessibleTextRole, command->name + ' ' + key);
        list_->setItemWidget(row, line);
    }
    list_->setCurrentRow(found_.empty() ? -1 : 0);
    hint_->setText(found_.empty() ? tr("No command matches")
                                  : tr("Enter runs it · Ctrl+Enter gives it another key · Escape closes"));
}

const Commands::Command* CommandFinder::chosen() const {
    const int row = list_->currentRow();
    return row >= 0 && size_t(row) < found_.size() ? found_[size_t(row)] : nullptr;
}

void CommandFinder::run_chosen() {
    const Commands::Command* command = chosen();
    if (!command || takes_key_) return;
    hide();
    parentWidget()->setFocus();
    command->action->trigger();
}

void CommandFinder::begin_key_change() {
    if (!chosen()) return;
    takes_key_ = true;
    hint_->setText(
        tr("Press the new key for “%1”. Delete removes its key, Escape keeps it").arg(chosen()->name));
}

void CommandFinder::take_key(const QKeyEvent& event) {
    const int key = event.key();
    if (key == Qt::Key_Shift || key == Qt::Key_Control || key == Qt::Key_Alt || key == Qt::Key_Meta) return;
    takes_key_ = false;
    const int row = list_->currentRow();
    QString said;
    if (key != Qt::Key_Escape) {
        const QKeySequence wanted =
            key == Qt::Key_Delete ? QKeySequence() : QKeySequence(event.keyCombination());
        if (const auto* other = commands_.change_key(chosen()->id, wanted))
            said =
                tr("%1 belongs to “%2” already").arg(wanted.toString(QKeySequence::NativeText), other->name);
    }
    fill();
    list_->setCurrentRow(row);
    if (!said.isEmpty()) hint_->setText(said);
}

bool CommandFinder::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::FocusOut) hide();
    // The window's own keys must not act while one is being chosen or a name typed.
    if (event->type() == QEvent::ShortcutOverride) {
        event->accept();
        return true;
    }
    if (event->type() != QEvent::KeyPress) return QFrame::eventFilter(watched, event);
    const auto& key = *static_cast<QKeyEvent*>(event);
    if (takes_key_) {
        take_key(key);
        return true;
    }
    switch (key.key()) {
    case Qt::Key_Escape:
        hide();
        parentWidget()->setFocus();
        return true;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (key.modifiers() & Qt::ControlModifier)
            begin_key_change();
        else
            run_chosen();
        return true;
    case Qt::Key_Up:
    case Qt::Key_Down:
        list_->setCurrentRow(std::clamp(list_->currentRow() + (key.key() == Qt::Key_Up ? -1 : 1), 0,
                                        std::max(list_->count() - 1, 0)));
        return true;
    default:
        return QFrame::eventFilter(watched, event);
    }
}

} // namespace rubble::app
