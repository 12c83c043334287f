#include "window/history_list.h"

#include <QDialogButtonBox>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace rubble::app {

namespace {

constexpr QSize k_step_picture{128, 80};
/// A picture is taken when nothing was done for so long (ms): none while somebody works on.
constexpr int k_still_ms = 700;

/// Marked, it looks as it does otherwise.
QIcon untinted(const QPixmap& picture) {
    QIcon icon(picture);
    icon.addPixmap(picture, QIcon::Selected);
    return icon;
}

} // namespace

HistoryList::HistoryList(Session& session, std::function<QImage()> picture, QWidget* parent)
    : QDialog(parent),
      session_(session),
      picture_(std::move(picture)) {
    setWindowTitle(tr("History"));
    resize(fontMetrics().averageCharWidth() * 60, fontMetrics().height() * 34);
    auto* column = new QVBoxLayout(this);
    auto* about =
        new QLabel(tr("Every step since the level was opened. Enter or a double click goes to one."));
    about->setWordWrap(true);
    column->addWidget(about);
    list_ = new QListWidget;
    list_->setAccessibleName(tr("Steps"));
    list_->setIconSize(k_step_picture);
    column->addWidget(list_, 1);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    buttons->button(QDialogButtonBox::Close)->setAutoDefault(false); // Enter belongs to the list
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(list_, &QListWidget::itemActivated, this, [this] {
        if (list_->currentRow() >= 0) session_.documents().go_to_step(size_t(list_->currentRow()));
    });
    soon_ = new QTimer(this);
    soon_->setSingleShot(true);
    soon_->setInterval(k_still_ms);
    connect(soon_, &QTimer::timeout, this, &HistoryList::take_picture);
    connect(&session_.documents(), &Documents::edited, this, &HistoryList::note_step);
    connect(&session_, &Session::documentOpened, this, [this] {
        pictures_.clear();
        note_step();
    });
    note_step();
}

void HistoryList::note_step() {
    // What was done over again is other than it was.
    const size_t at = session_.documents().step();
    if (at + 1 == size_t(session_.documents().steps().size())) pictures_.erase(at);
    soon_->start();
    if (isVisible()) fill();
}

void HistoryList::take_picture() {
    if (session_.documents().previews()) return soon_->start();
    const size_t at = session_.documents().step();
    if (pictures_.contains(at)) return;
    const QImage image = picture_();
    if (image.isNull()) return;
    const QImage small =
        image.scaled(k_step_picture, Qt::KeepAspectRatioByExpanding, Qt::SmoothTransformation);
    const QPoint middle = small.rect().center() - QRect({}, k_step_picture).center();
    pictures_[at] = QPixmap::fromImage(small.copy(QRect(middle, k_step_picture)));
    if (isVisible()) fill();
}

void HistoryList::fill() {
    const QSignalBlocker block(list_);
    const QStringList steps = session_.documents().steps();
    const size_t at = session_.documents().step();
    list_->clear();
    for (qsizetype i = 0; i < steps.size(); ++i) {
        auto* row = new QListWidgetItem(i == 0 ? tr("As it was opened") : steps[i], list_);
        if (const auto known = pictures_.find(size_t(i)); known != pictures_.end())
            row->setIcon(untinted(known->second));
        QFont font = row->font();
        font.setBold(size_t(i) == at);
        font.setItalic(size_t(i) > at); // undone
        row->setFont(font);
    }
    list_->setCurrentRow(int(at));
    list_->scrollToItem(list_->currentItem());
}

} // namespace rubble::app
