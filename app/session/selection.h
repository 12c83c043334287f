#pragma once

#include <optional>
#include <set>

#include "edit/dressing.h"
#include "edit/massing.h"
#include "edit/reshape.h"
#include "session/documents.h"

namespace rubble::app {

/// Points, edges and faces of a body that were picked to be reshaped, by their numbers in its mesh.
struct Picks {
    std::set<int> points;
    std::set<edit::MeshEdge> edges;
    std::set<int> faces;
    bool empty() const { return points.empty() && edges.empty() && faces.empty(); }
    /// The points of all of them.
    std::set<int> all_points(const FaceMesh& mesh) const;
    bool operator==(const Picks&) const = default;
};

/// What is chosen of the shown level: items, and what of the one item.
class Selection : public QObject {
    Q_OBJECT
public:
    explicit Selection(const Documents& documents, QObject* parent = nullptr);

    const std::vector<ItemId>& ids() const { return ids_; }
    /// The one item that is selected; null where there are none or several.
    const Item* item() const;
    void select(std::vector<ItemId> ids);
    void clear();
    /// Leaves out what is not in the level any more, before anybody looks.
    void forget_lost();

    /// The faces that are to be dressed, the one picked last at the end; those that are there.
    const std::vector<edit::FaceRef>& faces() const { return faces_; }
    /// Picks faces, and selects their brushes.
    void pick_faces(std::vector<edit::FaceRef> faces);
    /// The selected brush as a body, to be reshaped; null without one, or where it cannot be one.
    const Brush* body() const;
    /// What is picked of it.
    const Picks& picks() const;
    void pick(Picks picks);
    /// The area that is marked on the selected mass, where its faces are now; null without one.
    const edit::MassArea* area() const;
    void mark(std::optional<edit::MassArea> area);
    /// Whether it is the first time that something which loses part of these cells is asked for.
    bool warns_first(const MassGrid& cells);

signals:
    void changed();
    void picksChanged();

private:
    const Brush* brush() const;

    const Documents& documents_;
    std::vector<ItemId> ids_;
    std::vector<edit::FaceRef> faces_;
    Picks picks_;
    FaceMesh picked_of_; ///< the mesh that the picks speak of
    mutable std::optional<Brush> body_, body_made_of_;
    mutable std::optional<edit::MassArea> area_;
    mutable MassGrid area_of_; ///< the cells that the area speaks of
    MassGrid warned_of_;
};

} // namespace rubble::app
