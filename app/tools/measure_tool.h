#pragma once

#include "level/dimension.h"
#include "tools/tool.h"
#include "view/overlay.h"

namespace rubble::app {

/// Measures between two places, corners and edges first, and says what the distance means for the character.
/// Enter keeps it as a dimension that stays with what it measures.
class MeasureTool : public Tool {
public:
    using Tool::Tool;

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void confirm() override;
    bool escape() override;
    bool busy() const override { return from_.has_value(); }
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;

private:
    struct End {
        ItemId item;
        Vec3 place{0};
        bool caught = false; ///< on a corner or an edge
    };
    End end_at(const Pointer& pointer) const;

    End hover_;
    std::optional<End> from_, to_;
};

/// What going from one place to another means for the character, such as "a jump leaves 0.31 m".
QString meaning_of_distance(const Session& session, const Vec3& from, const Vec3& to);

/// A line between two places with its length; used for dimensions too.
void draw_measure(QPainter& painter, Labels& labels, const Camera& camera, const Vec3& from, const Vec3& to,
                  const QColor& ink, const QString& text);

} // namespace rubble::app
