#pragma once

#include <set>

#include <QElapsedTimer>
#include <QNativeGestureEvent>
#include <QOpenGLWidget>
#include <QTimer>

#include "level/tiles/laid_tiles.h"
#include "play/follow_camera.h"
#include "play/walker.h"
#include "settings/preferences.h"
#include "tools/tool.h"
#include "view/material_pictures.h"
#include "view/overlay.h"
#include "view/pictures.h"
#include "view/piece_renderer.h"
#include "view/renderer.h"
#include "view/shadow_maps.h"
#include "view/tile_renderer.h"

namespace rubble::app {

/// What a kind of view is called.
QString view_name(Camera::Kind kind);

/// One view of the level: draws it, moves the camera, and hands what the pointer does to the tool.
class LevelView : public QOpenGLWidget {
    Q_OBJECT
public:
    LevelView(Session& session, Camera::Kind kind, QWidget* parent = nullptr);
    ~LevelView() override;

    void set_tool(Tool* tool);
    /// The one at work in it; null while there is none.
    Tool* tool() const { return tool_; }
    void set_cut(double z) { cut_z_ = z, update(); }
    void set_mouse(const MouseUse& mouse) { mouse_ = mouse; }
    void set_mode(ViewMode mode) { mode_ = mode, update(); }
    ViewMode mode() const { return mode_; }
    /// Whether pictures that lie under the level are read and drawn.
    bool shows_pictures() { return !seen_underlays().empty(); }
    /// A flat view shows only the depth of a box; of an empty one, all.
    void set_slice(const Box3& box);
    void frame_all();
    void fly_to(const Vec3& at);
    /// Flies to where something is, and shows it by a ring that closes in on it.
    void show_where(const Box3& box);
    /// Another way to look, at the same place.
    void set_kind(Camera::Kind kind);
    const Camera& camera() const { return camera_; }
    /// What is seen from a place, straight ahead; the view stays as it is.
    QImage picture_from(const Vec3& eye, double heading_deg);

    /// A scale figure on the route; nothing hides it.
    void show_figure(std::optional<motion::PlayState> state);
    /// While a run is watched the view goes along with the figure, and words step back.
    void watch_figure(const motion::PlayState& state, Follow follow, double heading_deg);
    /// The view is as it was before.
    void end_watching();
    /// A run and the spans it takes, which are labelled before all others.
    void show_route(std::vector<Vec3> route, std::vector<check::Span> spans);

    void begin_walk(std::unique_ptr<Walker> walker);
    std::unique_ptr<Walker> end_walk();
    /// What lies over the level: elements, arcs, labels, handles.
    void paint_over(QPainter& painter);
    void paint_around(QPainter& painter);
    bool walking() const { return walker_ != nullptr; }
    const Walker* walker() const { return walker_.get(); }
    /// Where the pointer points on the level; for walk, paste and place from the keyboard.
    Vec3 pointer_ground() const { return pointer_ground_; }
    /// Where a figure would stand there: before a wall, or, from the side, on what lies below.
    Vec3 pointer_stand() const { return pointer_stand_; }
    /// The plane of the face under the pointer; nothing where it points at none.
    std::optional<edit::WorkingPlane> pointed_face() const { return pointed_face_; }

signals:
    void cursorMoved(const rubble::Vec3& at);
    void hintChanged(const QString& hint);
    void walkEnded(bool keep_view);
    /// At a goal one wants to go on to the level that it leads to.
    void goalLeft();
    void noteDropped(const rubble::Vec3& at);
    /// A material was dragged onto a face.
    void materialDropped(const rubble::MaterialId& material, const rubble::edit::FaceRef& face);

protected:
    void initializeGL() override;
    void paintGL() override;
    double used_to(const Camera& eye, const std::vector<Light>& lights);
    void throw_shadows(const Camera& eye, const std::vector<Light>& lights);
    void resizeGL(int width, int height) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dragMoveEvent(QDragMoveEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    bool event(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void keyReleaseEvent(QKeyEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

private:
    /// The pictures under the level that are there and seen.
    std::vector<Renderer::Picture> seen_underlays();
    Pointer pointer_at(QPointF screen, Qt::KeyboardModifiers keys) const;
    void paint_ground_lines(QPainter& painter);
    void paint_elements(QPainter& painter);
    /// The elements that are seen, with their places on the screen.
    std::vector<std::pair<const Item*, QPointF>> seen_elements() const;
    std::vector<const check::Span*> shown_spans() const;
    /// The drawn jump at a place of the screen, the nearest one; null where none is, or none is taken there.
    const check::Span* arc_at(QPointF screen) const;
    void paint_arcs(QPainter& painter);
    void label_near_misses(Labels& labels);
    void label_span(Labels& labels, const check::Span& span, bool of_route);
    void keep_free_what_is_worked_on(Labels& labels);
    void label_names(Labels& labels);
    void paint_studies(QPainter& painter, Labels& labels);
    void paint_scale_figure(QPainter& painter);
    QString mode_legend() const;
    void paint_legend(QPainter& painter);
    void paint_where(QPainter& painter);
    void paint_dimensions(QPainter& painter, Labels& labels);
    void paint_plane(QPainter& painter);
    /// The spans that begin or end on what is selected.
    std::vector<const check::Span*> spans_of_selection() const;
    void paint_walk(QPainter& painter);
    bool is_typing(const QKeyEvent& event) const;
    bool is_turning(const QKeyEvent& event) const;
    /// Whether a key moves the eye: while one looks round with the right button held.
    bool pinch(const QNativeGestureEvent& event);
    bool moves_eye(const QKeyEvent& event) const;
    void move_eye(double seconds);
    std::optional<SeeThrough> find_hole() const;
    std::optional<Hit> met_past_hole(Ray ray, QPointF screen) const;
    void set_camera(const Camera& camera);
    bool walk_key(QKeyEvent* event);
    void tick();

    Session& session_;
    Camera camera_;
    Renderer renderer_;
    ShadowMaps shadows_;
    double used_to_lux_ = 0;
    uint64_t shadow_scene_ = 0; ///< counts the scenes that threw some
    std::pair<const void*, const void*> shadow_scene_of_{};
    TileRenderer tiles_;
    LaidTiles laid_tiles_;
    PieceRenderer pieces_;
    Pictures pictures_;
    MaterialPictures material_pictures_;
    std::shared_ptr<const std::vector<QImage>> uploaded_pictures_;
    MouseUse mouse_;
    Tool* tool_ = nullptr;
    std::vector<Vec3> around_lines_; ///< of what stands around an open part
    std::optional<Shared<Level>> around_of_;
    ItemId around_place_;
    double cut_z_ = 1e6;
    ViewMode mode_ = ViewMode::plain;
    std::shared_ptr<const motion::World> uploaded_world_;
    std::shared_ptr<const SceneMesh> uploaded_mesh_;
    std::shared_ptr<const TintMesh> uploaded_tint_;
    bool taken_arc_ = false; ///< with the button that is held
    bool framed_ = true;     ///< nobody did anything here since `frame_all`: it is framed anew with its size
    std::set<int> eye_keys_; ///< held down, moving the eye
    int wheel_ = 0;          ///< turned, but not yet a whole step of a tool
    QPointF last_pointer_;
    Vec3 pointer_ground_{0};
    std::optional<edit::WorkingPlane> pointed_face_;
    Vec3 pointer_stand_{0}; ///< where the scale figure stands: before a wall, not on it
    bool pointer_inside_ = false;
    QString typed_;
    std::optional<motion::PlayState> figure_;
    bool watching_ = false;
    std::optional<Camera> before_watching_;
    std::vector<Vec3> route_;
    std::vector<check::Span> route_spans_;
    std::unique_ptr<Walker> walker_;
    Camera before_walk_;
    std::optional<Box3> shown_where_;
    QElapsedTimer shown_since_;
    QTimer frame_;
    QElapsedTimer clock_;
};

} // namespace rubble::app
