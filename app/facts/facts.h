#pragma once

#include <QScrollArea>

#include "window/page.h"

namespace rubble::app {

/// What the selection is, in numbers one can change, each beside what it means for the character.
class Facts : public QScrollArea {
    Q_OBJECT
public:
    explicit Facts(Session& session, QWidget* parent = nullptr);

    /// A claim whose verdict is to be told; empty for none.
    void show_claim(const ClaimId& id);
    /// What is shown is to be shown otherwise.
    void fill_again() { rebuild(); }

signals:
    void watchWanted(const rubble::check::Witness& witness, const QString& title);

private:
    void rebuild();
    void follow_level();
    void fill(Page& page);

    Session& session_;
    Page* page_ = nullptr;
    ClaimId claim_;
    std::vector<int> kind_; ///< what decides which fields the page has
};

} // namespace rubble::app
