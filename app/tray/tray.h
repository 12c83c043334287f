#pragma once

#include <QScrollArea>

#include "window/page.h"

namespace rubble::app {

/// What can be put down in this stage, or in Check what was found; below it the layers.
class Tray : public QWidget {
    Q_OBJECT
public:
    explicit Tray(Session& session, QWidget* parent = nullptr);
    /// Shows which tool is in the hand.
    void mark_tool(const QString& name);
    const QString& tool() const { return tool_; }
    /// How to learn the key of a tool, which the user may have changed; told in tooltips.
    void set_keys(std::function<QString(const QString& tool)> key_of);
    /// Whether Block out offers the pieces of kits instead of what is drawn.
    bool offers_pieces() const { return offers_pieces_; }
    void offer_pieces(bool on);
    /// What is shown is to be shown otherwise.
    void fill_again() { rebuild(); }
    QString key_of(const QString& tool) const { return key_of_ ? key_of_(tool) : QString(); }

signals:
    void toolWanted(const QString& name); ///< of the list of tools
    void claimChosen(const rubble::ClaimId& id);
    void findingChosen(const rubble::Vec3& at, const std::vector<rubble::ItemId>& items);
    void findingWanted(int index); ///< in walking order
    void exportWanted();
    void commandWanted(const QString& id);

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    void rebuild();
    void add_offers();
    void add_dress_offers();
    void offer_props(bool on);
    /// Hints are shown where they fit whole.
    void fit_hints();

    Session& session_;
    QVBoxLayout* column_ = nullptr;
    QScrollArea* scroll_ = nullptr;                         ///< where there are many tools, or little room
    Walked walked_ = Walked::freely;                        ///< that the page was made for
    std::vector<std::shared_ptr<const ElementKind>> kinds_; ///< of the project, that are offered
    Page* page_ = nullptr;
    bool offers_pieces_ = false, offers_props_ = false;
    QString tool_ = QStringLiteral("select");
    std::function<QString(const QString&)> key_of_;
};

} // namespace rubble::app
