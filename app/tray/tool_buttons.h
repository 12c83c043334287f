#pragma once

#include <QGridLayout>
#include <QWidget>

#include "tools/tool_list.h"

namespace rubble::app {

/// Pictures of tools in two columns; the one in the hand is marked.
class ToolButtons : public QWidget {
    Q_OBJECT
public:
    explicit ToolButtons(QWidget* parent = nullptr);
    /// `key` is told in the tooltip where there is one.
    void add(const ToolEntry& tool, const QString& key = {});
    void mark(const QString& id);

signals:
    void chosen(const QString& id);

private:
    QGridLayout* grid_ = nullptr;
};

} // namespace rubble::app
