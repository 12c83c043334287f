#pragma once

#include "edit/tiles.h"
#include "tools/tool.h"

namespace rubble::app {

/// What a stroke over a layer of tiles does.
enum class TileStroke { pencil, line, rectangle, ellipse, fill, replace, erase, pick_up };

/// Paints the chosen layer of tiles with the stamp in the hand. A stroke is seen in the level while the
/// button is down, and is one step.
class TileTool : public Tool {
public:
    TileTool(Session& session, TileStroke stroke) : Tool(session), stroke_(stroke) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    bool escape() override;
    void confirm() override;
    bool step(int right, int up) override;
    bool busy() const override { return begin_.has_value(); }
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;

private:
    /// The chosen layer of tiles, or a new one where the level has none.
    std::optional<LayerId> wanted_layer();
    bool begin(CellAt cell);
    void go_on(CellAt cell);
    void finish();
    CellAt place_of_keys() const;
    void give_up();
    std::optional<CellAt> cell_under(const Pointer& pointer) const;
    edit::Stamp stamp() const;
    /// The ground that is painted with; null where single tiles are.
    const Edging* ground(const TileLayer& tiles) const;
    /// The cells that the stroke covers by now, where it is one of single cells.
    std::vector<CellAt> covered() const;
    void show_stroke();
    /// The level with what the stroke does; nothing where it does nothing.
    std::optional<Level> painted() const;
    void pick_up(const TileBox& box);
    QString what() const;

    TileStroke stroke_;
    LayerId layer_;
    std::optional<Level> made_; ///< with a layer that this stroke brings
    std::optional<CellAt> hover_, begin_, now_;
    std::vector<CellAt> way_;        ///< of the pencil
    uint32_t chance_ = 1;            ///< what a mix is strewn by: another for each stroke
    std::optional<Vec3> picture_at_; ///< where a picture in the hand would be placed
};

} // namespace rubble::app
