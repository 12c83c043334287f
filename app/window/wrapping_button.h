#pragma once

#include <QPushButton>

namespace rubble::app {

/// A button whose words go on in the next line where they are longer than there is room: nothing is cut, in
/// any language and with text of any size.
class WrappingButton : public QPushButton {
    Q_OBJECT
public:
    explicit WrappingButton(const QString& text, QWidget* parent = nullptr);

    QSize sizeHint() const override;
    QSize minimumSizeHint() const override;
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override;

protected:
    void paintEvent(QPaintEvent* event) override;
};

} // namespace rubble::app
