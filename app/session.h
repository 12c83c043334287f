#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <set>

#include <QObject>
#include <QString>

#include "check/check.h"
#include "edit/clipboard.h"
#include "edit/massing.h"
#include "edit/reshape.h"
#include "edit/working_plane.h"
#include "io/export_parts.h"
#include "io/project_file.h"
#include "level/history.h"
#include "view/picking.h"
#include "view/scene_mesh.h"

namespace rubble::app {

enum class Stage { metrics, block_out, populate, dress, check, hand_off };

/// A level built and checked, ready to be drawn. Parts are shared and never change.
struct Built {
    std::shared_ptr<const build::Solid> solid;
    std::shared_ptr<const build::Surface> surface;
    std::shared_ptr<const PickBoxes> boxes; ///< of the surface
    std::shared_ptr<const SceneMesh> mesh;
    std::shared_ptr<const check::CheckResult> check; ///< null until the first check is done
    uint64_t check_version = 0;                      ///< of the level that `check` speaks of
    std::vector<bool> hidden;                        ///< for each of the solid's brushes
    std::shared_ptr<const TintMesh> tint;
    io::ExportCounts export_counts; ///< of the level that `check` speaks of
    uint64_t version = 0;

    /// What a ray meets first of what is seen, below a height.
    std::optional<Hit> met_by(const Ray& ray, double cut_z) const;
};

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

/// What places are put onto while something is drawn or dragged. Alt leaves it all for a moment.
struct Snapping {
    bool grid = true;
    bool edges = true;   ///< of other items
    bool corners = true; ///< of other items
    bool turn = true;    ///< the turn step
    bool operator==(const Snapping&) const = default;
};

/// What the window works on: the history of the document, what is chosen in it, and what is known about it.
/// Panels and tools send their wishes here; nothing else changes the document.
class Session : public QObject {
    Q_OBJECT
public:
    explicit Session(QObject* parent = nullptr);

    const Document& document() const { return history_.now(); }
    const Project& project() const { return *document().project; }
    /// The level being shown: while something is dragged, the level as it would be.
    const Level& level() const { return preview_ ? *preview_ : *document().levels[index_].level; }
    const Level& stored_level() const { return *document().levels[index_].level; }
    /// A file that the level names, which may lie beside its own.
    QString path_of(const QString& name) const;
    QString file() const { return QString::fromStdString(document().levels[index_].file); }
    size_t level_index() const { return index_; }
    uint64_t version() const { return version_; }
    Character character() const { return character_of(project(), level()); }
    QString character_name() const {
        return QString::fromStdString(rubble::character_name(project(), level()));
    }

    /// Opens a project folder, a project.json or a level file. On an error the open document stays.
    Result<void> open(const QString& path);
    void start_new();
    /// Writes what differs from its file. `as_file`: the file that the shown level belongs to from now on.
    Result<void> save(const QString& as_file = {});
    bool saved() const { return history_.saved(); }
    const Document& last_saved() const { return history_.last_saved(); }
    /// The files that `save` would write to: levels, and the project's own.
    std::vector<QString> unsaved_files() const;
    /// All files of the open document.
    std::vector<QString> files() const;
    /// Takes a file of the document as it is on disk now, as one step that can be undone.
    Result<void> reload(const QString& file);
    /// Makes `recovered` the newest step after what is in the files; nothing in them: none of it is saved.
    void recover(std::optional<Document> in_files, Document recovered, size_t index);

    /// An edit of the level. One whose items could not be saved and opened again is refused, with a message.
    void apply(Level level, const QString& what);
    void apply(Project project, const QString& what);
    /// While a gesture goes on, all that is applied is one step of the history.
    void set_gesture(bool going_on);
    void preview(Level level);
    void drop_preview();
    void undo();
    void redo();
    QString undo_text() const { return QString::fromStdString(history_.undo_text()); }
    QString redo_text() const { return QString::fromStdString(history_.redo_text()); }
    void show_level(size_t index);

    const std::vector<ItemId>& selection() const { return selection_; }
    const Item* selected() const {
        return selection_.size() == 1 ? find_item(level(), selection_[0]) : nullptr;
    }
    void select(std::vector<ItemId> ids);
    /// The side of the selected brush that was clicked last; nothing where none was.
    std::optional<BoxSide> side() const { return selection_.size() == 1 ? side_ : std::nullopt; }
    void choose_side(std::optional<BoxSide> side);
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
    /// Layer that new items go to.
    int layer() const { return std::min(layer_, int(level().layers.size()) - 1); }
    void set_layer(int layer) { layer_ = layer; }

    /// Shows only some items, in the view alone; none: shows all again.
    void isolate(std::vector<ItemId> ids);
    bool isolates() const { return !isolated_.empty(); }
    /// The level as it is to be seen: what is isolated, hides the rest.
    Level seen_level() const;

    Stage stage() const { return stage_; }
    void go_to(Stage stage);

    const Built& built() const { return built_; }
    void set_built(Built built);
    bool up_to_date() const { return built_.check && built_.check_version == version_; }

    double grid_m() const { return project().grid_m; }
    const Snapping& snapping() const { return snapping_; }
    void set_snapping(const Snapping& snapping);
    /// The plane that is drawn on whatever is pointed at; nothing: the surface under the pointer.
    const std::optional<edit::WorkingPlane>& plane() const { return plane_; }
    void set_plane(std::optional<edit::WorkingPlane> plane);

signals:
    void levelChanged();
    void documentOpened();
    void selectionChanged();
    void picksChanged();
    void stageChanged();
    void builtChanged();
    void savedChanged();
    void snappingChanged();
    void planeChanged();
    void message(const QString& text);

private:
    void changed();
    void begin_with(History history, size_t index);
    void add(Document next, const QString& what);
    Level followed(Level level) const;
    bool can_keep(const Level& level);

    History history_;
    std::optional<Level> preview_;
    size_t index_ = 0;
    int layer_ = 0;
    bool gesture_ = false, gesture_began_ = false;
    uint64_t version_ = 1;
    std::vector<ItemId> selection_;
    std::optional<BoxSide> side_;
    std::vector<ItemId> isolated_;
    Picks picks_;
    FaceMesh picked_of_; ///< the mesh that the picks speak of
    mutable std::optional<Brush> body_, body_made_of_;
    mutable std::optional<edit::MassArea> area_;
    MassGrid warned_of_;
    mutable MassGrid area_of_; ///< the cells that the area speaks of
    Snapping snapping_;
    std::optional<edit::WorkingPlane> plane_;
    Stage stage_ = Stage::block_out;
    Built built_;
};

} // namespace rubble::app
