#include "window/item_finder.h"

#include <QKeyEvent>
#include <QVBoxLayout>

#include "check/lost_items.h"
#include "level/item_search.h"
#include "numbers.h"
#include "shape_list.h"

namespace rubble::app {

namespace {

constexpr size_t k_most_rows = 300;
const char* const k_lost_word = "lost";

QString about(const Item& item, const Layer& layer) {
    QStringList parts;
    if (const Brush* brush = item.brush()) {
        parts << (brush->effect == Effect::cut ? ItemFinder::tr("cut") : shape_name(brush->shape).toLower());
        parts << ItemFinder::tr("%1 × %2 × %3")
                     .arg(plain_number(brush->size.x), plain_number(brush->size.y),
                          metres_text(brush->size.z));
    }
    if (item.element()) parts << QString::fromStdString(item.element()->kind);
    if (item.group()) parts << ItemFinder::tr("group of %1").arg(item.group()->items.size());
    parts << QString::fromStdString(layer.name.empty() ? layer.id.value : layer.name);
    return parts.join(QStringLiteral(" · "));
}

QString how_lost(check::Lost how) {
    switch (how) {
    case check::Lost::inside_matter:
        return ItemFinder::tr("lies completely inside matter");
    case check::Lost::cuts_nothing:
        return ItemFinder::tr("cuts nothing");
    case check::Lost::far_away:
        return ItemFinder::tr("lies far away from the rest");
    }
    return {};
}

} // namespace

ItemFinder::ItemFinder(Session& session, QWidget& window) : QFrame(&window), session_(session) {
    setProperty("role", "floating");
    setAutoFillBackground(true);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 10, 10, 8);
    text_ = new QLineEdit;
    text_->setAccessibleName(tr("Find an item"));
    text_->setPlaceholderText(tr("A word, or height>2, x<0 … or “lost”"));
    list_ = new QListWidget;
    list_->setAccessibleName(tr("Items"));
    list_->setFocusPolicy(Qt::NoFocus);
    list_->setWordWrap(true); // two lines a row, also where it is chosen
    list_->setTextElideMode(Qt::ElideNone);
    hint_ = new QLabel;
    hint_->setProperty("role", "faint");
    hint_->setWordWrap(true);
    column->addWidget(text_);
    column->addWidget(list_);
    column->addWidget(hint_);
    text_->installEventFilter(this);
    connect(text_, &QLineEdit::textChanged, this, &ItemFinder::fill);
    connect(list_, &QListWidget::itemClicked, this, &ItemFinder::go_to_chosen);
    connect(&session_, &Session::levelChanged, this, [this] {
        if (isVisible()) fill();
    });
    hide();
}

/// At the left side of the views, so that where it flies to is seen.
void ItemFinder::open(const QString& text) {
    const int line = fontMetrics().height();
    const QWidget& window = *parentWidget();
    setGeometry(line, line * 5, line * 22, std::min(line * 32, window.height() - line * 8));
    text_->setText(text);
    fill();
    show();
    raise();
    text_->setFocus();
    text_->selectAll();
}

std::vector<ItemFinder::Row> ItemFinder::rows() const {
    std::vector<Row> out;
    const Level& level = session_.level();
    if (text_->text().trimmed() == QLatin1String(k_lost_word)) {
        if (!session_.built().solid) return out;
        for (const check::LostItem& lost : check::lost_items(level, *session_.built().solid))
            if (const Item* item = find_item(level, lost.id))
                out.push_back({lost.id, QString::fromStdString(item->title()), how_lost(lost.how)});
        return out;
    }
    for (const FoundItem& found : found_items(level, text_->text().toStdString()))
        out.push_back(
            {found.item->id, QString::fromStdString(found.item->title()), about(*found.item, *found.layer)});
    return out;
}

void ItemFinder::fill() {
    rows_ = rows();
    const size_t count = rows_.size();
    if (rows_.size() > k_most_rows) rows_.resize(k_most_rows);
    list_->clear();
    for (const Row& row : rows_) list_->addItem(row.title + QStringLiteral("\n") + row.about);
    list_->setCurrentRow(rows_.empty() ? -1 : 0);
    hint_->setText(tr("%1 · Enter shows where it is · “lost” lists what nobody sees · Escape closes")
                       .arg(count == 0 ? tr("Nothing found") : counted(int(count), tr("item"), tr("items"))));
}

void ItemFinder::go_to_chosen() {
    const int row = list_->currentRow();
    if (row < 0 || size_t(row) >= rows_.size()) return;
    const Item* item = find_item(session_.level(), rows_[size_t(row)].id);
    if (!item) return;
    session_.select({item->id});
    emit wanted(box_of(*item));
}

bool ItemFinder::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() != QEvent::KeyPress) return QFrame::eventFilter(watched, event);
    switch (static_cast<QKeyEvent*>(event)->key()) {
    case Qt::Key_Escape:
        hide();
        parentWidget()->setFocus();
        return true;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        go_to_chosen();
        return true;
    case Qt::Key_Up:
    case Qt::Key_Down: {
        const int by = static_cast<QKeyEvent*>(event)->key() == Qt::Key_Up ? -1 : 1;
        list_->setCurrentRow(std::clamp(list_->currentRow() + by, 0, std::max(list_->count() - 1, 0)));
        return true;
    }
    default:
        return QFrame::eventFilter(watched, event);
    }
}

} // namespace rubble::app
