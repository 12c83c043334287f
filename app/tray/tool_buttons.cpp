#include "tray/tool_buttons.h"

#include <QPainter>
#include <QToolButton>

namespace rubble::app {

namespace {

/// How high a line of the usual text is: pictures grow with it.
constexpr double k_usual_line_px = 16;

/// Three beside each other are as wide as a tray; larger text has larger buttons.
int button_width(const QFontMetrics& metrics) {
    constexpr int k_usual_px = 59, k_beside_px = 10;
    return std::max(k_usual_px, metrics.horizontalAdvance(QStringLiteral("Cylinder")) + k_beside_px);
}

/// The picture of a tool, sharp on fine screens too.
QIcon icon_of(const ToolEntry& tool) {
    QPixmap pixmap(80, 64);
    pixmap.setDevicePixelRatio(2);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    painter.setRenderHint(QPainter::Antialiasing);
    tool.picture(painter);
    return QIcon(pixmap);
}

} // namespace

ToolButtons::ToolButtons(QWidget* parent) : QWidget(parent), grid_(new QGridLayout(this)) {
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setHorizontalSpacing(4);
    grid_->setVerticalSpacing(2);
    grid_->setColumnStretch(3, 1);
}

void ToolButtons::add(const ToolEntry& tool, const QString& key) {
    add(QString::fromLatin1(tool.id), tool.label(), icon_of(tool), key);
}

void ToolButtons::add(const QString& name, const QString& label, const QIcon& picture, const QString& key) {
    auto* button = new QToolButton;
    button->setObjectName(name);
    button->setIcon(picture);
    const int line = fontMetrics().height();
    button->setIconSize(QSize(30, 22) * std::max(1.0, line / k_usual_line_px));
    const int width = button_width(fontMetrics());
    // The full name is in the tooltip; on the button there is room for one word.
    button->setText(button->fontMetrics().horizontalAdvance(label) > width - 6 ? label.section(' ', 0, 0)
                                                                               : label);
    button->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
    button->setCheckable(true);
    button->setFixedSize(width, button->iconSize().height() + 6 + line);
    button->setToolTip(key.isEmpty() ? label : tr("%1 (%2)").arg(label, key));
    button->setAccessibleName(label);
    button->setProperty("role", "tool");
    const int count = grid_->count();
    grid_->addWidget(button, count / 3, count % 3, Qt::AlignLeft);
    connect(button, &QToolButton::clicked, this, [this, name] { emit chosen(name); });
}

void ToolButtons::mark(const QString& name) {
    for (QToolButton* button : findChildren<QToolButton*>()) button->setChecked(button->objectName() == name);
}

} // namespace rubble::app
