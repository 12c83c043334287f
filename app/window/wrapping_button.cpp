#include "window/wrapping_button.h"

#include <QStyleOptionButton>
#include <QStylePainter>

namespace rubble::app {

namespace {

/// Between the words and the frame, on either side.
constexpr int k_pad_x_px = 8, k_pad_y_px = 5;
constexpr int k_flags = Qt::AlignCenter | Qt::TextWordWrap | Qt::TextShowMnemonic;

} // namespace

WrappingButton::WrappingButton(const QString& text, QWidget* parent) : QPushButton(text, parent) {
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
}

int WrappingButton::heightForWidth(int width) const {
    const QRect room(0, 0, std::max(width - 2 * k_pad_x_px, 1), 10000);
    return fontMetrics().boundingRect(room, k_flags, text()).height() + 2 * k_pad_y_px;
}

QSize WrappingButton::sizeHint() const {
    const int width = fontMetrics().size(Qt::TextShowMnemonic, text()).width() + 2 * k_pad_x_px;
    return {width, heightForWidth(width)};
}

QSize WrappingButton::minimumSizeHint() const {
    int longest = 0;
    for (const QString& word : text().split(' '))
        longest = std::max(longest, fontMetrics().size(Qt::TextShowMnemonic, word).width());
    const int width = longest + 2 * k_pad_x_px;
    return {width, fontMetrics().height() + 2 * k_pad_y_px};
}

void WrappingButton::paintEvent(QPaintEvent*) {
    QStylePainter painter(this);
    QStyleOptionButton option;
    initStyleOption(&option);
    option.text.clear();
    painter.drawControl(QStyle::CE_PushButton, option);
    painter.setPen(
        palette().color(isEnabled() ? QPalette::Active : QPalette::Disabled, QPalette::ButtonText));
    painter.drawText(rect().adjusted(k_pad_x_px, 0, -k_pad_x_px, 0), k_flags, text());
}

} // namespace rubble::app
