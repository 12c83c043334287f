#pragma once

#include <QGridLayout>
#include <QIcon>
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
    /// One that is no tool of the list: what is emitted, its name and its picture.
    void add(const QString& id, const QString& label, const QIcon& picture, const QString& key = {});
    void mark(const QString& id);

signals:
    void chosen(const QString& id);

private:
    QGridLayout* grid_ = nullptr;
};

} // namespace rubble::app
