#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QScrollArea>

#include "session/session.h"
#include "tiles/sheet_view.h"

namespace rubble::app {

/// The tiles that one paints with: a sheet of the project, from which a block is taken into the hand.
class SheetPalette : public QWidget {
    Q_OBJECT
public:
    explicit SheetPalette(Session& session, QWidget* parent = nullptr);

    /// Shows what the session has now.
    void refresh();

private:
    void take_into_hand();
    void show_weights();
    void show_chosen_layers_sheet();

    Session& session_;
    QComboBox *sheets_ = nullptr, *grounds_ = nullptr;
    SheetView* view_ = nullptr;
    QScrollArea* scroll_ = nullptr;
    QCheckBox* strews_ = nullptr;
    QWidget* weights_ = nullptr; ///< a number for each of the tiles in the hand
    std::vector<int> weighed_;
};

} // namespace rubble::app
