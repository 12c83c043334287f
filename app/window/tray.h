#pragma once

#include <QListWidget>
#include <QVBoxLayout>
#include <QWidget>

#include "session.h"

namespace rubble::app {

/// What can be put down in this stage, or in Check what was found; below it the layers.
class Tray : public QWidget {
    Q_OBJECT
public:
    explicit Tray(Session& session, QWidget* parent = nullptr);
    /// Shows which tool is in the hand.
    void mark_tool(const QString& name);

signals:
    void toolWanted(const QString& name); ///< "select", "box", "ramp", "cut", or "place KIND"
    void claimChosen(const rubble::ClaimId& id);
    void findingChosen(const rubble::Vec3& at, const std::vector<rubble::ItemId>& items);
    void exportWanted();

private:
    void rebuild();
    void refresh();
    void build_tools();
    void build_elements();
    void build_metrics();
    void build_materials();
    void build_check();
    void build_hand_off();
    void add_heading(const QString& text);
    void add_tool(const QString& name, const QString& label, const QString& key);
    void fill_layers();

    Session& session_;
    QVBoxLayout* column_ = nullptr;
    QWidget* stage_part_ = nullptr;
    QListWidget* layers_ = nullptr;
    QString tool_ = QStringLiteral("select");
    std::vector<std::function<void()>> refreshers_;
};

} // namespace rubble::app
