#pragma once

#include <QWidget>

#include "level/tiles/tile_sheet.h"

namespace rubble::app {

/// The cases of a ground's edging, each as a small picture of what lies around a cell with the tile that the
/// set has for it. A click chooses a case; the one chosen is what the next tile is given to.
class EdgingView : public QWidget {
    Q_OBJECT
public:
    explicit EdgingView(QWidget* parent = nullptr);

    /// Shows one of the sheet's edgings; below 0 none. With `corners` all 47 cases, else 16.
    void show_edging(std::shared_ptr<const TileSheet> sheet, int edging, bool corners);
    /// The case that is chosen.
    GroundAround chosen() const;
    /// Goes on to the next case that has no tile.
    void choose_next();

    QSize sizeHint() const override;

signals:
    void caseChosen();

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    const Edging* edging() const;
    int columns() const;
    QRectF box_of(size_t index) const;
    void choose(int index);

    std::shared_ptr<const TileSheet> sheet_;
    int edging_ = -1;
    std::vector<GroundAround> cases_;
    int chosen_ = 0;
};

} // namespace rubble::app
