#pragma once

#include <QGridLayout>
#include <QWidget>

namespace rubble::app {

/// Pictures of tools in two columns; the one in the hand is marked.
class ToolButtons : public QWidget {
    Q_OBJECT
public:
    explicit ToolButtons(QWidget* parent = nullptr);
    /// `name` is what `chosen` will say; `key` is told in the tooltip where there is one.
    void add(const QString& name, const QString& label, const QString& key = {});
    void mark(const QString& name);

signals:
    void chosen(const QString& name);

private:
    QGridLayout* grid_ = nullptr;
};

} // namespace rubble::app
