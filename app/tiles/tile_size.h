#pragma once

#include <QWidget>

#include "geometry/vec.h"
#include "level/character.h"

namespace rubble::app {

/// A tile drawn beside the character, both to one scale.
class TileSize : public QWidget {
    Q_OBJECT
public:
    explicit TileSize(QWidget* parent = nullptr);

    /// The tile's width and height (metres).
    void show_sizes(Vec2 tile_m, const Character& character);
    QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    Vec2 tile_m_{1};
    Character character_;
};

} // namespace rubble::app
