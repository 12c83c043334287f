#include "tools/piece_tool.h"

#include <algorithm>
#include <cmath>

#include "edit/items.h"
#include "text.h"
#include "theme.h"
#include "tools/snap.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

/// The lines of the module about a piece, on the floor that it stands on.
void draw_module(QPainter& painter, const Camera& camera, const Box3& cells, const Vec3& module) {
    constexpr int k_cells = 3;
    QColor ink = color::blue_grey;
    ink.setAlphaF(0.5f);
    painter.setPen(QPen(ink, 1));
    const Vec3 low = cells.low - module * Vec3(k_cells, k_cells, 0);
    const Vec3 high = Vec3(cells.high.x, cells.high.y, cells.low.z) + module * Vec3(k_cells, k_cells, 0);
    for (double x = low.x; x < high.x + 1e-6; x += module.x)
        draw_line(painter, camera, {x, low.y, low.z}, {x, high.y, low.z});
    for (double y = low.y; y < high.y + 1e-6; y += module.y)
        draw_line(painter, camera, {low.x, y, low.z}, {high.x, y, low.z});
}

/// A joint as a frame on its side, with a mark of which way it looks.
void draw_joint(QPainter& painter, const Camera& camera, const edit::PlacedJoint& joint, const QColor& ink,
                bool dashed) {
    painter.setPen(QPen(ink, 2, dashed ? Qt::DashLine : Qt::SolidLine));
    const Vec3 r = joint.right * 0.46, u = joint.up * 0.46;
    const std::array<Vec3, 4> corners{joint.at - r - u, joint.at + r - u, joint.at + r + u, joint.at - r + u};
    for (size_t i = 0; i < 4; ++i) draw_line(painter, camera, corners[i], corners[(i + 1) % 4]);
    draw_line(painter, camera, joint.at, joint.at + joint.out * (glm::length(joint.up) * 0.15));
}

} // namespace

std::shared_ptr<const Kit> PieceTool::kit() const {
    return find_kit(session_.project(), session_.looking().kit());
}

std::optional<PlacedPiece> PieceTool::in_hand(const Vec3& at) const {
    const auto own = kit();
    const auto piece = own ? own->piece(session_.looking().piece()) : nullptr;
    if (!piece) return {};
    PlacedPiece placed;
    placed.kit_file = own->file, placed.piece_id = piece->id, placed.piece = piece;
    placed.place.turn_deg = turn_deg_;
    // The cell that is pointed at is its first, standing on the storey that is nearest.
    const Box3 box = edit::cells_box(*own, placed);
    const Vec3 module = edit::module_as_turned(*own, placed);
    const Vec3 middle = piece->seat == PieceSeat::free ? Vec3(0) : box.low + module * 0.5;
    placed.place.at = {at.x - middle.x, at.y - middle.y, at.z - box.low.z};
    return edit::on_module(*own, std::move(placed), session_.looking().module_part());
}

const edit::JointPlaces& PieceTool::joints() {
    if (!joints_ || joints_of_ != session_.version())
        joints_.emplace(edit::joints_of(session_.project(), session_.stored_level())),
            joints_of_ = session_.version();
    return *joints_;
}

void PieceTool::hover_at(const Vec3& at) {
    hover_ = in_hand(at);
    if (!hover_) return;
    show_fitting();
    const bool by_hand = glm::length(hover_->place.at - turned_at_) < 1e-6;
    if (by_hand) return;
    const auto own = kit();
    const double turn = edit::turn_that_fits(*own, *hover_, joints());
    if (turn == turn_deg_) return;
    turn_deg_ = turn;
    hover_ = in_hand(at);
}

/// Looked for once a cell.
void PieceTool::show_fitting() {
    const Vec3 low = edit::cells_box(*kit(), *hover_).low;
    const bool known = fitting_at_ == low && fitting_of_ == session_.version();
    if (known) return;
    fitting_at_ = low, fitting_of_ = session_.version();
    session_.looking().set_fitting(edit::pieces_that_fit(*kit(), *hover_, joints()));
}

bool PieceTool::next_fitting() {
    // What fitted may be of a pointer, or a kit, that is gone.
    const std::vector<std::string> fitting = session_.looking().fitting();
    if (fitting.empty() || first_ || !hover_ || !kit()) return false;
    const auto now = std::find(fitting.begin(), fitting.end(), session_.looking().piece());
    const bool last = now == fitting.end() || now + 1 == fitting.end();
    const Vec3 pointed = edit::cells_box(*kit(), *hover_).low + edit::module_as_turned(*kit(), *hover_) * 0.5;
    session_.looking().set_piece(session_.looking().kit(), last ? fitting.front() : *(now + 1));
    const double floor = edit::cells_box(*kit(), *hover_).low.z;
    hover_at({pointed.x, pointed.y, floor});
    return true;
}

void PieceTool::press(const Pointer& pointer) {
    if (seen_from_the_side(session_, pointer)) return;
    hover_at(pointer.ground);
    if (!hover_) return session_.documents().show_message(tr("Choose a piece in the tray first"));
    first_ = hover_;
    laid_ = {*first_};
}

void PieceTool::move(const Pointer& pointer) {
    if (!first_) return hover_at(pointer.ground);
    // A row goes on at the height where it began.
    const auto at = meet_plane(pointer.ray, first_->place.at, {0, 0, 1});
    if (!at) return;
    auto laid = edit::laid_out(*kit(), *first_, *at);
    if (laid.size() == laid_.size() && laid == laid_) return;
    laid_ = std::move(laid);
    std::vector<ItemId> ids;
    session_.preview(with_laid(ids));
}

Level PieceTool::with_laid(std::vector<ItemId>& ids) const {
    Level level = session_.stored_level();
    for (const PlacedPiece& placed : laid_) {
        Item item;
        item.id = edit::fresh_id(level, id_prefix(placed));
        item.body = placed;
        ids.push_back(item.id);
        level = edit::with_item(level, session_.layer(), std::move(item));
    }
    return level;
}

void PieceTool::put_down() {
    if (!first_) return;
    std::vector<ItemId> ids;
    Level level = with_laid(ids);
    session_.drop_preview();
    first_.reset();
    session_.apply(std::move(level), tr("Place pieces"));
    session_.select(std::move(ids));
}

void PieceTool::release(const Pointer&) { put_down(); }

bool PieceTool::turn_quarters(int quarters) {
    if (!hover_ || first_) return false;
    const auto own = kit();
    hover_ = edit::turned_in_place(*own, *hover_, quarters);
    turn_deg_ = hover_->place.turn_deg;
    turned_at_ = hover_->place.at;
    return true;
}

bool PieceTool::wheel(const Pointer& pointer, int steps) {
    return (pointer.keys & Qt::ShiftModifier) && turn_quarters(steps > 0 ? 1 : -1);
}

bool PieceTool::step(int right, int up) {
    const auto own = kit();
    if (!own || first_) return false;
    if (!hover_) hover_at({0, 0, 0});
    if (!hover_) return false;
    const Vec3 module = edit::module_as_turned(*own, *hover_) * session_.looking().module_part();
    hover_at(edit::cells_box(*own, *hover_).low +
             module * Vec3(0.5, 0.5, 0) / session_.looking().module_part() +
             Vec3(right * module.x, up * module.y, 0));
    return true;
}

void PieceTool::confirm() {
    if (!hover_ || first_) return;
    first_ = hover_, laid_ = {*first_};
    put_down();
}

bool PieceTool::escape() {
    if (!first_) return false;
    first_.reset();
    session_.drop_preview();
    return true;
}

void PieceTool::paint(QPainter& painter, const Camera& camera) {
    if (!hover_ || first_) return;
    const auto own = kit();
    if (!own) return;
    draw_module(painter, camera, edit::cells_box(*own, *hover_), edit::module_as_turned(*own, *hover_));
    painter.setPen(QPen(color::accent, 1.5));
    draw_piece(painter, camera, *hover_);
    Item item;
    item.body = *hover_;
    for (const edit::PlacedJoint& joint : edit::joints_of(*own, item)) {
        if (!joint.passage) continue;
        const edit::PlacedJoint* other = joints().opposite(joint);
        const bool fits = other && joints_fit(joint.kind, other->kind);
        draw_joint(painter, camera, joint,
                   !other ? color::ochre
                   : fits ? color::sea_green
                          : color::plum,
                   !fits);
    }
    for (const edit::PlacedJoint& joint : joints().all())
        if (joint.passage && !joints().opposite(joint))
            draw_joint(painter, camera, joint, color::ochre, true);
}

QString PieceTool::hint() const {
    if (session_.project().kits.empty()) return tr("Bring pieces in: drop models on the window");
    if (session_.looking().piece().empty())
        return tr("Choose a piece in the tray, then click where it should stand");
    return tr(
        "Click to place, drag for a row or area; Space or Shift+wheel turns it, arrows and Enter work too");
}

} // namespace rubble::app
