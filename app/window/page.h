#pragma once

#include <functional>

#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>
#include <QWidget>

#include "session/session.h"

namespace rubble::app {

/// A number in a row of a page: its name, where it comes from, what changing it does, and, where it has one,
/// what it means for the character.
struct NumberRow {
    QString name;
    QString unit;
    double step = 0.1;
    std::function<double()> value;
    std::function<void(double)> change;
    std::function<QString()> meaning = {};
    /// Where several things have different values, shown as "mixed" while `value` is not a number: changes
    /// each by the same.
    std::function<void(double)> change_by = {};
};

/// A column of headings, texts, numbers and buttons about the session. A function per subject fills it; it
/// is made anew when the subject changes and refreshed when only its values do.
class Page : public QWidget {
    Q_OBJECT
public:
    Page(Session& session, const QMargins& margins, QWidget* parent = nullptr);

    Session& session() const { return session_; }
    QVBoxLayout& column() { return *column_; }

    QLabel* add_heading(const QString& text);
    /// `role` is one of the style sheet's: "faint", "plain", "meaning".
    QLabel* add_text(const QString& text, const char* role = "faint");
    QPushButton* add_button(const QString& text, std::function<void()> act);
    void add_number(NumberRow row);
    /// A line of text that can be changed, such as a name.
    void add_line(const QString& name, std::function<QString()> value,
                  std::function<void(const QString&)> change);
    /// A list whose rows are as high as their texts; it takes what `stretch` gives it of the page's height.
    QListWidget* add_list(const QString& name, int stretch);
    /// As high as its rows.
    QListWidget* add_short_list(const QString& name);

    void on_refresh(std::function<void()> refresher) { refreshers_.push_back(std::move(refresher)); }
    void refresh();

private:
    Session& session_;
    QVBoxLayout* column_ = nullptr;
    std::vector<std::function<void()>> refreshers_;
};

/// Makes a list as high as its rows, up to `most` of them.
void fit_to_rows(QListWidget& list, int most);

} // namespace rubble::app
