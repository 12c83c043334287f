#include "view/level_view.h"

#include <map>

#include "check/flight.h"
#include "check/route_light.h"
#include "edit/brushes.h"
#include "level/item_search.h"
#include "level/order.h"
#include "numbers.h"
#include "theme.h"
#include "tools/measure_tool.h"
#include "tools/snap.h"
#include "view/lit.h"
#include "view/overlay.h"

namespace rubble::app {

QString view_name(Camera::Kind kind) {
    switch (kind) {
    case Camera::Kind::free:
        return LevelView::tr("Space view");
    case Camera::Kind::above:
        return LevelView::tr("Plan view");
    case Camera::Kind::front:
        return LevelView::tr("Front view");
    case Camera::Kind::right:
        return LevelView::tr("Right side view");
    }
    return {};
}

LevelView::LevelView(Session& session, Camera::Kind kind, QWidget* parent)
    : QOpenGLWidget(parent),
      session_(session) {
    camera_.kind = kind;
    setMouseTracking(true);
    setAcceptDrops(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(160, 120);
    set_kind(kind);
    connect(&session_, &Session::levelChanged, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::selectionChanged, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::picksChanged, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::builtChanged, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::stageChanged, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::suggestionsChanged, this, qOverload<>(&QWidget::update));
    connect(&pictures_, &Pictures::loaded, this, [this](const QString& path) {
        if (pictures_.is_bad(path)) emit session_.message(tr("%1 is no picture that can be read").arg(path));
        update();
    });
    frame_.setInterval(16);
    connect(&frame_, &QTimer::timeout, this, &LevelView::tick);
}

LevelView::~LevelView() {
    makeCurrent();
    if (isValid()) tiles_.release(), pieces_.release(), shadows_.release();
}

void LevelView::set_tool(Tool* tool) {
    tool_ = tool;
    typed_.clear();
    if (tool_) emit hintChanged(tool_->hint());
    update();
}

namespace {

/// Whether a layer has tiles that one can stand on: water along all of a level does not count for its size.
bool bears(const TileLayer& tiles) {
    if (!tiles.solid) return false;
    if (!tiles.sheet) return true;
    bool found = false;
    tiles.grid.for_each_tile(tiles.grid.area(), [&](CellAt, Tile tile) {
        const SheetTile* own = found ? nullptr : tiles.sheet->tile(tile.number());
        found |= own && own->collision != TileCollision::none && own->acts == TileActs::nothing;
    });
    return found;
}

} // namespace

void LevelView::frame_all() {
    camera_.size = size();
    std::vector<Box3> boxes;
    for_each_item(session_.level(), [&](const Item& item, const Layer&) {
        if (!item.group()) boxes.push_back(box_of(item));
    });
    // What is played counts; what lies far behind it may reach beyond the view.
    std::vector<Box3> solid, all;
    for (const auto& layer : session_.level().layers)
        if (layer->tiles && !(*layer->tiles)->grid.area().empty()) {
            all.push_back(box_of(**layer->tiles, session_.level().frame, (*layer->tiles)->grid.area()));
            if (bears(**layer->tiles)) solid.push_back(all.back());
        }
    const std::vector<Box3>& tiles = solid.empty() ? all : solid;
    boxes.insert(boxes.end(), tiles.begin(), tiles.end());
    camera_ = camera_.filling(boxes);
    framed_ = true;
    update();
}

void LevelView::set_camera(const Camera& camera) {
    camera_ = camera;
    framed_ = false;
}

QImage LevelView::picture_from(const Vec3& eye, double heading_deg) {
    constexpr double k_field_deg = 75;
    const Camera before =
        std::exchange(camera_, Camera::first_person(eye, heading_deg, 0, k_field_deg, QSizeF(size())));
    QImage picture = grabFramebuffer();
    camera_ = before;
    update();
    return picture;
}

void LevelView::set_slice(const Box3& box) {
    camera_.slice.reset();
    if (camera_.flat() && !box.empty()) {
        const Vec3 look = camera_.forward();
        const double a = glm::dot(box.low, look), b = glm::dot(box.high, look);
        constexpr double k_air_m = 0.01; // what lies in the slice's front is seen
        camera_.slice = Camera::Slice{std::min(a, b) - k_air_m, std::max(a, b) + k_air_m};
    }
    update();
}

void LevelView::set_kind(Camera::Kind kind) {
    camera_.kind = kind;
    camera_.slice.reset();
    setAccessibleName(view_name(kind));
    update();
}

void LevelView::fly_to(const Vec3& at) {
    camera_.target = at;
    camera_.distance_m = std::min(camera_.distance_m, 12.0);
    framed_ = false;
    update();
}

void LevelView::show_where(const Box3& box) {
    camera_.size = size();
    const double air = std::max(1.5, glm::length(box.high - box.low) * 0.1);
    set_camera(camera_.framing(box.grown(air)));
    shown_where_ = box;
    shown_since_.restart();
    update();
}

void LevelView::show_figure(std::optional<motion::PlayState> state) {
    figure_ = std::move(state);
    update();
}

void LevelView::watch_figure(const motion::PlayState& state, Follow follow, double heading_deg) {
    constexpr double k_tilt_deg = 12, k_figures_high = 12;
    watching_ = true;
    show_figure(state);
    const auto& check = session_.built().check;
    if (follow == Follow::stays || !check || !check->world) {
        if (before_watching_) camera_ = *before_watching_, before_watching_.reset();
        return;
    }
    if (!before_watching_) before_watching_ = camera_;
    const Character c = session_.character();
    const Vec3 eye = state.body.at + Vec3(0, 0, c.eye_height_m);
    if (camera_.flat() || follow == Follow::above) { // as it looks, going along
        camera_ = *before_watching_;
        camera_.size = QSizeF(size());
        camera_.target = eye;
        if (!camera_.flat()) camera_.tilt_deg = 60;
        camera_.distance_m *= k_figures_high * c.height_m / std::max(camera_.size.height(), 1.0) /
                              camera_.metres_per_pixel(eye);
        return;
    }
    camera_ = camera_behind(*check->world, c, eye, heading_deg, k_tilt_deg, QSizeF(size()));
}

void LevelView::end_watching() {
    watching_ = false;
    show_figure({});
    if (before_watching_) {
        before_watching_->size = camera_.size;
        camera_ = *before_watching_, before_watching_.reset();
    }
}

void LevelView::show_route(std::vector<Vec3> route, std::vector<check::Span> spans) {
    route_ = std::move(route);
    route_spans_ = std::move(spans);
    std::sort(route_spans_.begin(), route_spans_.end(),
              [](auto& a, auto& b) { return a.margin_pct < b.margin_pct; });
    update();
}

void LevelView::begin_walk(std::unique_ptr<Walker> walker) {
    walker_ = std::move(walker);
    before_walk_ = camera_;
    framed_ = false; // the window changes its size for the walk, and what was looked at stays
    setFocus();
    setCursor(Qt::BlankCursor);
    clock_.restart();
    frame_.start();
    update();
}

std::unique_ptr<Walker> LevelView::end_walk() {
    frame_.stop();
    unsetCursor();
    if (walker_) camera_ = before_walk_, camera_.size = size();
    update();
    return std::move(walker_);
}

void LevelView::initializeGL() {
    renderer_.initialize();
    shadows_.initialize();
    tiles_.initialize();
    pieces_.initialize();
}

void LevelView::resizeGL(int width, int height) {
    camera_.size = QSizeF(width, height);
    if (framed_ && !walker_) frame_all(); // nobody has looked elsewhere yet
}

std::vector<Renderer::Picture> LevelView::seen_underlays() {
    std::vector<Renderer::Picture> out;
    for (const Underlay& underlay : session_.level().underlays) {
        if (underlay.hidden) continue;
        const QString path = session_.files().path_of(QString::fromStdString(underlay.file));
        const QImage* image = pictures_.find(path);
        if (!image) continue;
        const auto [u, v] = axes_of(underlay);
        const Vec3 right = u * (underlay.width_m / 2),
                   up = v * (underlay.width_m / 2 * image->height() / std::max(image->width(), 1));
        const Vec3 at = underlay.at;
        out.push_back(
            {image, {at - right - up, at + right - up, at + right + up, at - right + up}, underlay.opacity});
    }
    return out;
}

/// Before anything is drawn: what the lights do not get by.
void LevelView::throw_shadows(const Camera& eye, const std::vector<Light>& lights) {
    const Built& built = session_.built();
    pieces_.send(built.pieces, session_.project());
    const std::pair<const void*, const void*> scene{uploaded_mesh_.get(), built.pieces.get()};
    if (scene != shadow_scene_of_) shadow_scene_of_ = scene, ++shadow_scene_;
    Box3 all = renderer_.box();
    if (built.pieces)
        for (const PieceScene::Place& place : built.pieces->places) all.add(place.box);
    shadows_.update(eye, lights, shadow_scene_, all, [this](const glm::mat4& view, const Box3& within) {
        renderer_.draw_depth(view, within);
        pieces_.draw_depth(view);
    });
}

/// What arrives where the eye is, as quickly as eyes get used to it while one walks.
double LevelView::used_to(const Camera& eye, const std::vector<Light>& lights) {
    const auto& check = session_.built().check;
    double arrives = 0;
    if (eye.flat()) // it looks from nowhere: as by the sun, where one shines
        for (const Light& light : lights) arrives += light.kind == Light::Kind::sun ? light.strength : 0;
    else if (check && check->world)
        arrives = check::lux_at_eye(*check->world, lights, eye.eye());
    const double now = lux_used_to(lights, arrives);
    constexpr double k_each_frame = 0.08;
    used_to_lux_ =
        walker_ && used_to_lux_ > 0 ? used_to_lux_ * std::pow(now / used_to_lux_, k_each_frame) : now;
    return used_to_lux_;
}

void LevelView::paintGL() {
    camera_.size = size();
    const Built& built = session_.built();
    if (built.mesh && built.mesh != uploaded_mesh_) {
        renderer_.set_scene(*built.mesh);
        uploaded_mesh_ = built.mesh;
    }
    const bool tries =
        session_.studies().tint && (session_.stage() == Stage::check || !session_.studies().what_if);
    if (const auto& tint = tries ? session_.studies().tint : built.tint; tint && tint != uploaded_tint_) {
        renderer_.set_tint(*tint);
        uploaded_tint_ = tint;
    }
    if (mode_ == ViewMode::collision && built.check && built.check->world != uploaded_world_) {
        renderer_.set_collision(collision_lines(*built.check->world));
        uploaded_world_ = built.check->world;
    }
    const auto images = material_pictures_.images(session_.project());
    if (images != uploaded_pictures_) renderer_.set_materials(*images), uploaded_pictures_ = images;
    Renderer::Look look;
    look.dressed = walker_ || session_.stage() == Stage::dress;
    if (look.dressed && (walker_ || mode_ != ViewMode::day)) look.lights = lights_of(session_.level());
    look.dots_per_m = session_.project().dots_per_m;
    if (mode_ == ViewMode::density) look.picture_dots = picture_dots(session_.project());
    look.cuts = !walker_ && session_.stage() == Stage::block_out;
    look.mode = walker_ || mode_ == ViewMode::day ? ViewMode::plain : mode_;
    look.max_slope_deg = session_.character().max_slope_deg;
    look.cut_z = walker_ ? 1e6 : cut_z_;
    look.hole = find_hole();
    look.fades = !walker_;
    look.module_m = session_.project().module_m;
    look.pixel_ratio = devicePixelRatioF();
    look.tint = !walker_ && session_.stage() != Stage::dress && session_.stage() != Stage::metrics;
    QPainter painter(this);
    painter.beginNativePainting();
    look.step_m = session_.character().step_height_m,
    look.jump_m = check::highest_ledge(session_.character());
    const Camera eye = walker_ ? walker_->camera(size()) : camera_;
    if (look.mode == ViewMode::plain && !look.lights.empty()) throw_shadows(eye, look.lights);
    look.shadows = &shadows_;
    // Where one dresses, one sees what is in the dark too.
    constexpr double k_in_walks = 0.08, k_at_work = 0.3;
    if (!look.lights.empty()) look.eye = {used_to(eye, look.lights), walker_ ? k_in_walks : k_at_work};
    renderer_.draw(eye, look, walker_ ? std::vector<Renderer::Picture>{} : seen_underlays(), [&] {
        pieces_.draw(built.pieces, session_.project(), eye, look);
        tiles_.draw(laid_tiles_.of(session_.level()), eye, walking());
    });
    painter.endNativePainting();
    if (walker_)
        paint_walk(painter);
    else
        paint_over(painter);
}

/// Through what is seen through, as the eye goes.
std::optional<Hit> LevelView::met_past_hole(Ray ray, QPointF screen) const {
    constexpr int k_most_walls = 32;
    const auto hole = find_hole();
    double before = 0;
    for (int i = 0; i < k_most_walls; ++i) {
        auto hit = session_.built().met_by(ray, cut_z_);
        if (hit) hit->along += before;
        if (!hit || !hole || !hole->covers(hit->at, screen)) return hit;
        before = hit->along + 1e-6;
        ray.from = camera_.ray(screen).at(before);
    }
    return {};
}

/// What stands between the eye and what is worked on.
std::optional<SeeThrough> LevelView::find_hole() const {
    if (walker_ || camera_.flat() || session_.stage() == Stage::check) return {};
    const auto worked_on = tool_ ? tool_->worked_on() : std::nullopt;
    const auto& solid = session_.built().solid;
    if (!worked_on || !solid) return {};
    const auto own = [&](const Hit& hit) {
        const bool brush = size_t(hit.brush) < solid->brushes.size();
        if (!brush && hit.item.empty()) return true;
        const auto path =
            path_to(session_.level(), brush ? solid->brushes[size_t(hit.brush)]->item : hit.item);
        return std::any_of(path.begin(), path.end(), [&](const Item* item) {
            const auto& ids = session_.selection();
            return std::find(ids.begin(), ids.end(), item->id) != ids.end();
        });
    };
    return see_through_to(*worked_on, camera_, [&](const Ray& ray) {
        auto hit = session_.built().met_by(ray, cut_z_);
        return hit && own(*hit) ? std::nullopt : hit;
    });
}

} // namespace rubble::app
