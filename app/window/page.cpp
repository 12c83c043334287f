#include "window/page.h"

#include <utility>

#include <QLineEdit>
#include <QPainter>
#include <QStyledItemDelegate>

#include "window/number_field.h"
#include "window/wrapping_button.h"

namespace rubble::app {

namespace {

constexpr int k_beside_px = 8, k_above_px = 5; // around the text of a row
constexpr int k_picture_gap_px = 8;

/// Where a row's text stands: behind its picture.
QRect text_place(const QRect& row, int picture_px) {
    const int picture = picture_px > 0 ? picture_px + k_picture_gap_px : 0;
    return row.adjusted(k_beside_px + picture, k_above_px, -k_beside_px, -k_above_px);
}

/// Rows whose text is broken into lines in the very width for which their height was found; the style's own
/// drawing differs from its measuring by a few pixels, and leaves out the last line then.
class WrappedRows : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override {
        QStyleOptionViewItem row(option);
        initStyleOption(&row, index);
        const QString text = std::exchange(row.text, {});
        row.widget->style()->drawControl(QStyle::CE_ItemViewItem, &row, painter, row.widget);
        painter->setFont(row.font);
        painter->setPen(row.palette.color(QPalette::Text));
        painter->drawText(text_place(row.rect, row.icon.isNull() ? 0 : row.decorationSize.width()),
                          Qt::AlignVCenter | Qt::TextWordWrap, text);
    }
};

/// A list whose rows are as high as their texts need in its width; with `whole` it is as high as all of them.
class WrappingList : public QListWidget {
public:
    explicit WrappingList(bool whole) : whole_(whole) {
        setItemDelegate(new WrappedRows(this));
        if (whole_) setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    }

protected:
    void resizeEvent(QResizeEvent* event) override {
        QListWidget::resizeEvent(event);
        for (int i = 0; i < count(); ++i) fit(*item(i));
        if (whole_) fit_to_rows(*this, count());
    }
    void rowsInserted(const QModelIndex& parent, int first, int last) override {
        QListWidget::rowsInserted(parent, first, last);
        for (int i = first; i <= last; ++i) fit(*item(i));
        if (whole_) fit_to_rows(*this, count());
    }

private:
    void fit(QListWidgetItem& row) {
        const int picture = row.icon().isNull() ? 0 : iconSize().width();
        const QRect room = text_place(QRect(0, 0, std::max(viewport()->width(), 80), 10'000), picture);
        const QRect box = fontMetrics().boundingRect(room, Qt::TextWordWrap, row.text());
        row.setSizeHint({40, box.height() + 2 * k_above_px});
    }

    bool whole_;
};

/// A list as it stands on all pages.
QListWidget* new_list(const QString& name, bool whole) {
    auto* list = new WrappingList(whole);
    list->setAccessibleName(name);
    list->setIconSize({16, 16});
    list->setWordWrap(true);
    list->setTextElideMode(Qt::ElideNone);
    list->setResizeMode(QListView::Adjust);
    list->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    return list;
}

} // namespace

Page::Page(Session& session, const QMargins& margins, QWidget* parent) : QWidget(parent), session_(session) {
    column_ = new QVBoxLayout(this);
    column_->setContentsMargins(margins);
    column_->setSpacing(6);
}

QLabel* Page::add_heading(const QString& text) {
    auto* label = new QLabel(text);
    label->setProperty("role", "heading");
    label->setWordWrap(true);
    column_->addWidget(label);
    return label;
}

QLabel* Page::add_text(const QString& text, const char* role) {
    auto* label = new QLabel(text);
    label->setProperty("role", role);
    label->setWordWrap(true);
    column_->addWidget(label);
    return label;
}

QPushButton* Page::add_button(const QString& text, std::function<void()> act) {
    auto* button = new WrappingButton(text);
    column_->addWidget(button);
    connect(button, &QPushButton::clicked, this, [act = std::move(act)] { act(); });
    return button;
}

void Page::add_number(NumberRow row) {
    auto* line = new QHBoxLayout;
    line->setSpacing(6);
    auto* field = new NumberField(row.name, row.step, row.unit);
    auto* label = new NumberHandle(row.name, *field);
    connect(field, &NumberField::dragged, &session_.documents(), &Documents::set_gesture);
    label->setBuddy(field);
    label->setWordWrap(true);
    label->setMinimumWidth(40);
    line->addWidget(label, 1);
    line->addWidget(field);
    column_->addLayout(line);
    connect(field, &NumberField::changedTo, this, [change = row.change](double to) { change(to); });
    connect(field, &NumberField::changedBy, this,
            [change = row.change, by = row.change_by, value = row.value](double d) {
                by ? by(d) : change(value() + d);
            });
    on_refresh([field, value = row.value] { field->show_value(value()); });
    if (!row.meaning) return;
    QLabel* said = add_text({}, "meaning");
    on_refresh([said, meaning = row.meaning] {
        said->setText(meaning());
        said->setVisible(!said->text().isEmpty());
    });
}

void Page::add_line(const QString& name, std::function<QString()> value,
                    std::function<void(const QString&)> change) {
    auto* line = new QHBoxLayout;
    line->setSpacing(6);
    auto* label = new QLabel(name);
    auto* field = new QLineEdit;
    field->setAccessibleName(name);
    label->setBuddy(field);
    line->addWidget(label);
    line->addWidget(field, 1);
    column_->addLayout(line);
    connect(field, &QLineEdit::editingFinished, this, [field, change = std::move(change)] {
        if (!field->isModified()) return;
        field->setModified(false);
        change(field->text());
    });
    on_refresh([field, value = std::move(value)] {
        if (!field->isModified()) field->setText(value());
    });
}

QListWidget* Page::add_list(const QString& name, int stretch) {
    QListWidget* list = new_list(name, false);
    list->setMinimumHeight(fontMetrics().height() * 3); // it shares what room the page has
    column_->addWidget(list, stretch);
    return list;
}

QListWidget* Page::add_short_list(const QString& name) {
    QListWidget* list = new_list(name, true);
    column_->addWidget(list);
    return list;
}

void Page::refresh() {
    for (const auto& refresher : refreshers_) refresher();
}

void fit_to_rows(QListWidget& list, int most) {
    int height = 2 * list.frameWidth() + 2;
    for (int row = 0; row < std::min(list.count(), most); ++row) height += list.sizeHintForRow(row);
    list.setFixedHeight(height);
}

} // namespace rubble::app
