#include "view/level_view.h"

#include <map>

#include <QApplication>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QWheelEvent>

#include "check/flight.h"
#include "edit/brushes.h"
#include "level/item_search.h"
#include "level/order.h"
#include "numbers.h"
#include "theme.h"
#include "tools/measure_tool.h"
#include "tools/snap.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

constexpr int k_wheel_step = 120;

} // namespace

QString view_name(Camera::Kind kind) {
    switch (kind) {
    case Camera::Kind::space:
        return LevelView::tr("Space view");
    case Camera::Kind::plan:
        return LevelView::tr("Plan view");
    case Camera::Kind::front:
        return LevelView::tr("Front view");
    case Camera::Kind::side:
        return LevelView::tr("Right side view");
    }
    return {};
}

LevelView::LevelView(Session& session, Camera::Kind kind, QWidget* parent)
    : QOpenGLWidget(parent),
      session_(session) {
    camera_.kind = kind;
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(160, 120);
    set_kind(kind);
    connect(&session_, &Session::levelChanged, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::selectionChanged, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::picksChanged, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::builtChanged, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::stageChanged, this, qOverload<>(&QWidget::update));
    connect(&pictures_, &Pictures::loaded, this, [this](const QString& path) {
        if (pictures_.is_bad(path)) emit session_.message(tr("%1 is no picture that can be read").arg(path));
        update();
    });
    frame_.setInterval(16);
    connect(&frame_, &QTimer::timeout, this, &LevelView::tick);
}

LevelView::~LevelView() { makeCurrent(); }

void LevelView::set_tool(Tool* tool) {
    tool_ = tool;
    typed_.clear();
    if (tool_) emit hintChanged(tool_->hint());
    update();
}

void LevelView::frame_all() {
    camera_.size = size();
    std::vector<Box3> boxes;
    for_each_item(session_.level(), [&](const Item& item, const Layer&) {
        if (!item.group()) boxes.push_back(box_of(item));
    });
    camera_ = camera_.filling(boxes);
    framed_ = true;
    update();
}

void LevelView::set_camera(const Camera& camera) {
    camera_ = camera;
    framed_ = false;
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

void LevelView::show_figure(std::optional<motion::State> state) {
    figure_ = std::move(state);
    update();
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

bool LevelView::moves_eye(const QKeyEvent& event) const {
    const bool one_of = event.key() == Qt::Key_W || event.key() == Qt::Key_A || event.key() == Qt::Key_S ||
                        event.key() == Qt::Key_D;
    return one_of && !walker_ && !camera_.flat() && QApplication::mouseButtons() & Qt::RightButton;
}

/// Slower near things, so that one steers within rooms as well as over a whole site.
void LevelView::move_eye(double seconds) {
    constexpr double k_part_per_s = 0.9, k_slowest_mps = 1.5;
    const auto met = session_.built().met_by({camera_.eye(), camera_.forward()}, cut_z_);
    const double near = std::min(camera_.distance_m, met ? glm::length(met->at - camera_.eye()) : 1e9);
    const double way = std::max(near * k_part_per_s, k_slowest_mps) * seconds;
    Vec3 by(0);
    if (eye_keys_.contains(Qt::Key_W)) by += camera_.forward();
    if (eye_keys_.contains(Qt::Key_S)) by -= camera_.forward();
    if (eye_keys_.contains(Qt::Key_D)) by += camera_.right();
    if (eye_keys_.contains(Qt::Key_A)) by -= camera_.right();
    Camera moved = camera_;
    moved.target += by * way;
    set_camera(moved);
    update();
}

void LevelView::tick() {
    if (!eye_keys_.empty()) {
        if (!(QApplication::mouseButtons() & Qt::RightButton)) eye_keys_.clear();
        move_eye(double(clock_.restart()) / 1000);
        if (eye_keys_.empty()) frame_.stop();
        return;
    }
    if (!walker_) return;
    walker_->advance(double(clock_.restart()) / 1000);
    update();
}

void LevelView::initializeGL() { renderer_.initialize(); }

void LevelView::resizeGL(int width, int height) {
    camera_.size = QSizeF(width, height);
    if (framed_ && !walker_) frame_all(); // nobody has looked elsewhere yet
}

std::vector<Renderer::Picture> LevelView::seen_underlays() {
    std::vector<Renderer::Picture> out;
    for (const Underlay& underlay : session_.level().underlays) {
        if (underlay.hidden) continue;
        const QString path = session_.path_of(QString::fromStdString(underlay.file));
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

void LevelView::paintGL() {
    camera_.size = size();
    const Built& built = session_.built();
    if (built.mesh && built.mesh != uploaded_mesh_) {
        renderer_.set_scene(*built.mesh);
        uploaded_mesh_ = built.mesh;
    }
    if (built.tint && built.tint != uploaded_tint_) {
        renderer_.set_tint(*built.tint);
        uploaded_tint_ = built.tint;
    }
    if (mode_ == ViewMode::collision && built.check && built.check->world != uploaded_world_) {
        renderer_.set_collision(collision_lines(*built.check->world));
        uploaded_world_ = built.check->world;
    }
    Renderer::Look look;
    look.cuts = !walker_ && session_.stage() == Stage::block_out;
    look.mode = walker_ ? ViewMode::plain : mode_;
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
    renderer_.draw(walker_ ? walker_->camera(size()) : camera_, look,
                   walker_ ? std::vector<Renderer::Picture>{} : seen_underlays());
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
        if (size_t(hit.brush) >= solid->brushes.size()) return true;
        const auto path = path_to(session_.level(), solid->brushes[size_t(hit.brush)]->item);
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

Pointer LevelView::pointer_at(QPointF screen, Qt::KeyboardModifiers keys) const {
    Pointer p{screen, camera_, camera_.ray(screen), {}, Vec3(0), keys, cut_z_};
    p.hit = met_past_hole(p.ray, screen);
    if (const auto& plane = session_.plane())
        if (const auto at = meet_plane(p.ray, plane->at, plane->n)) {
            p.ground = *at;
            return p;
        }
    if (p.hit)
        p.ground = p.hit->at;
    else if (const auto at = meet_plane(p.ray, Vec3(0), {0, 0, 1}))
        p.ground = *at;
    else
        p.ground = camera_.target;
    return p;
}

void LevelView::mousePressEvent(QMouseEvent* event) {
    last_pointer_ = event->position();
    framed_ = false; // somebody works here: the picture stays where it is
    if (walker_ || event->button() != Qt::LeftButton || !tool_) return;
    typed_.clear();
    tool_->press(pointer_at(event->position(), event->modifiers()));
    emit hintChanged(tool_->hint());
    update();
}

void LevelView::mouseDoubleClickEvent(QMouseEvent* event) {
    const bool taken = !walker_ && tool_ && event->button() == Qt::LeftButton &&
                       tool_->double_click(pointer_at(event->position(), event->modifiers()));
    if (!taken) return mousePressEvent(event);
    emit hintChanged(tool_->hint());
    update();
}

void LevelView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF by = event->position() - last_pointer_;
    last_pointer_ = event->position();
    if (walker_) {
        walker_->look(-by.x() * 0.25, by.y() * 0.25);
        return;
    }
    // Everything works with two buttons: Shift with the right one pans like the middle one.
    const bool pan = event->buttons() & Qt::MiddleButton ||
                     (event->buttons() & Qt::RightButton && event->modifiers() & Qt::ShiftModifier);
    if (pan)
        set_camera(camera_.panned(by));
    else if (event->buttons() & Qt::RightButton)
        set_camera(camera_.turned(by));
    const Pointer pointer = pointer_at(event->position(), event->modifiers());
    pointer_ground_ = pointer.ground;
    pointed_face_.reset();
    if (pointer.hit) pointed_face_ = edit::plane_of_face(pointer.hit->at, pointer.hit->normal);
    const auto foot = pointer.hit ? foot_of_wall(session_, *pointer.hit) : std::nullopt;
    pointer_stand_ = foot.value_or(pointer.ground);
    pointer_inside_ = true;
    emit cursorMoved(pointer.ground);
    if (tool_ && !(event->buttons() & (Qt::MiddleButton | Qt::RightButton)) && typed_.isEmpty()) {
        tool_->move(pointer);
        emit hintChanged(tool_->hint());
    }
    update();
}

void LevelView::mouseReleaseEvent(QMouseEvent* event) {
    if (walker_ || event->button() != Qt::LeftButton || !tool_) return;
    if (typed_.isEmpty())
        tool_->release(pointer_at(event->position(), event->modifiers()));
    else
        tool_->confirm();
    typed_.clear();
    emit hintChanged(tool_->hint());
    update();
}

void LevelView::wheelEvent(QWheelEvent* event) {
    framed_ = false;
    if (walker_) return;
    // A touchpad sends many small turns of the wheel: a tool gets whole steps.
    wheel_ += event->angleDelta().y();
    const int steps = wheel_ / k_wheel_step;
    if (tool_ && tool_->wheel(pointer_at(event->position(), event->modifiers()), steps)) {
        wheel_ -= steps * k_wheel_step;
        update();
        return;
    }
    wheel_ = 0;
    set_camera(camera_.zoomed(std::pow(0.85, event->angleDelta().y() / 120.0), event->position()));
    update();
}

bool LevelView::walk_key(QKeyEvent* event) {
    switch (event->key()) {
    case Qt::Key_Escape:
        emit walkEnded(event->modifiers() & Qt::ShiftModifier);
        return true;
    case Qt::Key_R:
        walker_->restart();
        return true;
    case Qt::Key_V:
        walker_->toggle_first_person();
        return true;
    case Qt::Key_N: {
        const Camera camera = walker_->camera(size());
        const Ray ray{camera.eye(), camera.forward()};
        const auto hit = session_.built().met_by(ray, 1e6);
        emit noteDropped(hit ? hit->at : walker_->state().at);
        return true;
    }
    default:
        walker_->press(event->key());
        return true;
    }
}

/// Whether a key belongs to a number that is typed while the tool is at something.
bool LevelView::is_typing(const QKeyEvent& event) const {
    if (walker_ || !tool_ || !tool_->busy()) return false;
    if (event.key() == Qt::Key_Backspace) return true;
    const QString text = event.text();
    const bool number = !text.isEmpty() && QStringLiteral("0123456789.,+-*/() mc").contains(text[0]);
    return number && !(typed_.isEmpty() && text[0].isLetter());
}

/// Space turns what is being drawn, unless it stands in a number.
bool LevelView::is_turning(const QKeyEvent& event) const {
    return !walker_ && tool_ && tool_->busy() && event.key() == Qt::Key_Space && typed_.isEmpty();
}

/// Keys of a number are not commands, whatever commands have them.
bool LevelView::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride &&
        (is_typing(*static_cast<QKeyEvent*>(event)) || is_turning(*static_cast<QKeyEvent*>(event)) ||
         moves_eye(*static_cast<QKeyEvent*>(event)))) {
        event->accept();
        return true;
    }
    return QOpenGLWidget::event(event);
}

void LevelView::keyPressEvent(QKeyEvent* event) {
    framed_ = false;
    if (walker_) {
        if (!event->isAutoRepeat()) walk_key(event);
        return;
    }
    if (moves_eye(*event)) {
        if (eye_keys_.empty()) clock_.restart(), frame_.start();
        eye_keys_.insert(event->key());
        return;
    }
    const QString text = event->text();
    if (is_turning(*event)) {
        tool_->turn_quarters(1);
        update();
        return;
    }
    if (is_typing(*event)) {
        if (event->key() == Qt::Key_Backspace)
            typed_.chop(1);
        else
            typed_ += text;
        tool_->typed(typed_);
        emit hintChanged(tool_->hint());
        update();
        return;
    }
    if (tool_ && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)) {
        tool_->confirm();
        typed_.clear();
        emit hintChanged(tool_->hint());
        update();
        return;
    }
    if (tool_ && event->key() == Qt::Key_Escape) {
        typed_.clear();
        if (tool_->escape()) {
            emit hintChanged(tool_->hint());
            update();
            return;
        }
    }
    QOpenGLWidget::keyPressEvent(event);
}

void LevelView::keyReleaseEvent(QKeyEvent* event) {
    if (!event->isAutoRepeat()) eye_keys_.erase(event->key());
    if (walker_ && !event->isAutoRepeat())
        walker_->release(event->key());
    else
        QOpenGLWidget::keyReleaseEvent(event);
}

void LevelView::focusOutEvent(QFocusEvent* event) {
    // Keys let go elsewhere would stay down for ever.
    eye_keys_.clear();
    if (walker_)
        for (int key : {Qt::Key_W, Qt::Key_A, Qt::Key_S, Qt::Key_D, Qt::Key_Space, Qt::Key_C, Qt::Key_Up,
                        Qt::Key_Down, Qt::Key_Left, Qt::Key_Right})
            walker_->release(key);
    QOpenGLWidget::focusOutEvent(event);
}

} // namespace rubble::app
