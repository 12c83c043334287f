#include <QPlainTextEdit>

#include "facts/pages.h"
#include "io/values_text.h"

namespace rubble::app {

namespace {

/// A text that says when it is left.
class ValuesEdit : public QPlainTextEdit {
public:
    std::function<void(const QString&)> left;

protected:
    void focusOutEvent(QFocusEvent* event) override {
        QPlainTextEdit::focusOutEvent(event);
        if (left) left(toPlainText());
    }
};

} // namespace

void add_values(Page& page, const QString& heading, std::function<Extra()> now,
                std::function<void(Extra)> change) {
    page.add_heading(heading);
    auto* text = new ValuesEdit;
    text->setAccessibleName(heading);
    text->setPlaceholderText(Facts::tr("tag\nkey = value"));
    text->setToolTip(Facts::tr("Tags and values for the program that loads the level, a line each; they are "
                               "exported with it"));
    text->setTabChangesFocus(true);
    text->setFixedHeight(text->fontMetrics().lineSpacing() * 4);
    page.column().addWidget(text);
    const auto shown = [now] { return QString::fromStdString(io::text_of_values(now())).trimmed(); };
    text->left = [shown, now, change](const QString& typed) {
        const Extra values = io::values_from_text(typed.toStdString());
        if (typed.trimmed() != shown() && values != now()) change(values);
    };
    page.on_refresh([text, shown] {
        if (!text->hasFocus() && text->toPlainText() != shown()) text->setPlainText(shown());
    });
}

} // namespace rubble::app
