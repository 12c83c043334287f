#include "view/element_overlay.h"

#include <array>
#include <limits>
#include <map>

#include "edit/tiles.h"
#include "level/element_kinds.h"
#include "level/element_values.h"
#include "level/order.h"
#include "motion/cells/letter.h"
#include "motion/elements.h"
#include "text.h"
#include "theme.h"

namespace rubble::app {

namespace {

/// The eight corners of an element's body; bit 0 right, bit 1 away, bit 2 up.
std::array<Vec3, 8> body_corners(const Element& element) {
    const Vec3 size = size_of(element);
    const Placement place{element.at, element.facing_deg, {}};
    std::array<Vec3, 8> out;
    for (size_t i = 0; i < 8; ++i)
        out[i] = place.to_level(size * Vec3(i & 1 ? 0.5 : -0.5, i & 2 ? 0.5 : -0.5, i & 4 ? 1.0 : 0.0));
    return out;
}

constexpr std::array<std::array<int, 4>, 6> k_sides{
    {{0, 1, 3, 2}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 3, 7, 6}, {0, 2, 6, 4}, {1, 3, 7, 5}}};

/// Half the length of the arrow through what lets pass in one direction (metres).
constexpr double k_way_arrow_m = 0.5;

QColor with_alpha(QColor color, double alpha) {
    color.setAlphaF(float(alpha));
    return color;
}

} // namespace

void ElementOverlay::draw_body(const Element& element, const Look& look) {
    if (kind_of(element).sign == Sign::rungs) return draw_ladder(element);
    if (size_of(element) == Vec3(0)) return;
    const auto corners = body_corners(element);
    const Sign sign = kind_of(element).sign;
    const bool lies = sign == Sign::waves || sign == Sign::spikes;
    const QColor ink = element_color(kind_of(element));
    painter_.save();
    painter_.setRenderHint(QPainter::Antialiasing);
    painter_.setOpacity(look.opacity);
    painter_.setPen(QPen(ink, 1.4, look.open ? Qt::DotLine : Qt::SolidLine));
    const double filled = look.open ? 0.06 : sign == Sign::crate ? 0.55 : lies ? 0.22 : 0.3;
    painter_.setBrush(sign == Sign::waves ? QBrush(with_alpha(ink, 0.5), Qt::Dense6Pattern)
                                          : QBrush(with_alpha(ink, filled)));
    // Of what is whole only the sides towards the eye are seen.
    const Vec3 middle = (corners[0] + corners[7]) * 0.5;
    const auto looks_away = [&](size_t side) {
        Vec3 face(0);
        for (const int i : k_sides[side]) face += corners[size_t(i)] / 4.0;
        const auto at = camera_.to_screen(face);
        return at && glm::dot(camera_.ray(*at).direction, face - middle) >= 0;
    };
    for (size_t s = 0; s < k_sides.size(); ++s) {
        QPolygonF polygon;
        for (const int i : k_sides[s])
            if (const auto at = camera_.to_screen(corners[size_t(i)])) polygon << *at;
        if (polygon.size() != 4 || (sign == Sign::crate && looks_away(s))) continue;
        painter_.drawPolygon(polygon);
        // A crate has its cross, bars their lines.
        if (sign == Sign::crate)
            painter_.drawLine(polygon[0], polygon[2]), painter_.drawLine(polygon[1], polygon[3]);
        if (sign == Sign::bars && !look.open)
            for (const double t : {0.25, 0.5, 0.75})
                painter_.drawLine(polygon[0] + (polygon[1] - polygon[0]) * t,
                                  polygon[3] + (polygon[2] - polygon[3]) * t);
    }
    painter_.setPen(QPen(ink.darker(130), 2));
    const Vec3 size = size_of(element);
    if (text_value(element, "acts") == "carries")
        draw_arrow({element.at, number_value(element, "towards_deg", 0), {}},
                   std::min(size.x, size.y) * 0.35);
    if (acts_as(element) == "barrier" && flag_value(element, "one_way", false))
        draw_arrow({element.at + Vec3(0, 0, size.z / 2), element.facing_deg, {}}, k_way_arrow_m);
    painter_.restore();
}

void ElementOverlay::draw_arrow(const Placement& towards, double half) {
    const auto tail = camera_.to_screen(towards.to_level({-half, 0, 0})),
               head = camera_.to_screen(towards.to_level({half, 0, 0}));
    if (!tail || !head) return;
    painter_.drawLine(*tail, *head);
    // Its barbs are seen from wherever one looks.
    const QPointF way = (*head - *tail) * 0.35, across(-way.y() * 0.7, way.x() * 0.7);
    painter_.drawLine(*head - way + across, *head), painter_.drawLine(*head - way - across, *head);
}

void ElementOverlay::draw_ladder(const Element& element) {
    constexpr double k_half_m = 0.3, k_rung_m = 0.3;
    const double height = number_of(element, "height_m");
    const Placement place{element.at, element.facing_deg, {}};
    painter_.save();
    painter_.setRenderHint(QPainter::Antialiasing);
    painter_.setPen(QPen(element_color(kind_of(element)), 2));
    for (const double side : {-k_half_m, k_half_m})
        draw_line(painter_, camera_, place.to_level({0, side, 0}), place.to_level({0, side, height}));
    for (double z = k_rung_m; z < height; z += k_rung_m)
        draw_line(painter_, camera_, place.to_level({0, -k_half_m, z}), place.to_level({0, k_half_m, z}));
    painter_.restore();
}

std::optional<Element> ElementOverlay::element_of(const ItemId& id, const Vec3& shift) const {
    const Item* item = find_item(level_, id);
    if (!item || !item->element()) return {};
    Element element = *item->element();
    element.at += shift;
    return element;
}

void ElementOverlay::draw_way(const Element& element) {
    const ElementField* field = kind_of(element).way();
    std::vector<Vec3> way = field ? points_value(element, field->key) : std::vector<Vec3>{};
    if (way.size() < 2) return;
    if (text_of(element, "way") == "loop") way.push_back(way[0]);
    painter_.setBrush(Qt::NoBrush);
    painter_.setPen(QPen(element_color(kind_of(element)), 1.6, Qt::DashLine));
    draw_path(painter_, camera_, way);
    for (const Vec3& point : way)
        if (const auto at = camera_.to_screen(point)) painter_.drawEllipse(*at, 3, 3);
}

void ElementOverlay::draw_references(const Item& item) {
    Item copy = item;
    painter_.setPen(QPen(color::accent, 1.4, Qt::DotLine));
    for_each_reference(copy, [&](ItemId& id) {
        if (const Item* other = find_item(level_, id); other && other->element())
            draw_line(painter_, camera_, item.element()->at, other->element()->at);
    });
    // A key shows its doors and a door its keys.
    const std::string own = acts_as(*item.element()) == "key" ? text_value(*item.element(), "kind", "brass")
                            : acts_as(*item.element()) == "door" ? text_value(*item.element(), "key")
                                                                 : "";
    if (own.empty()) return;
    const bool key = acts_as(*item.element()) == "key";
    for (const Item* other : elements_of(level_))
        if (other->element()->kind == (key ? "door" : "key") &&
            text_value(*other->element(), key ? "key" : "kind", key ? "" : "brass") == own)
            draw_line(painter_, camera_, item.element()->at, other->element()->at);
}

void ElementOverlay::draw(const std::vector<ItemId>& selected) {
    for (const Item* item : seen_elements_of(level_)) {
        draw_body(*item->element(), {flag_value(*item->element(), "open", false), 1});
        draw_way(*item->element());
    }
    for (const Item* item : seen_elements_of(level_)) {
        bool chosen = std::find(selected.begin(), selected.end(), item->id) != selected.end();
        Item copy = *item; // who is referred to shows by whom
        for_each_reference(copy, [&](ItemId& id) {
            chosen |= std::find(selected.begin(), selected.end(), id) != selected.end();
        });
        if (chosen) draw_references(*item);
    }
}

void ElementOverlay::draw_ghosts(std::span<const Item> items) {
    for (const Item& item : items) {
        painter_.setOpacity(0.6);
        if (const Element* element = item.element()) {
            draw_body(*element, {true, 0.6});
            draw_way(*element);
            painter_.setOpacity(0.6);
            if (const auto at = camera_.to_screen(element->at))
                draw_element(painter_, *at, kind_of(*element), true);
            continue;
        }
        draw_ghost(box_of(item));
    }
    painter_.setOpacity(1);
}

void ElementOverlay::draw_ghosts(std::span<const check::MendCells> cells) {
    for (const check::MendCells& of : cells)
        if (const TileLayer* tiles = edit::tile_layer(level_, of.layer))
            for (const TileGrid::Change& change : of.cells)
                draw_ghost(
                    box_of(*tiles, level_.frame, {change.at, {change.at.column + 1, change.at.row + 1}}));
}

void ElementOverlay::draw_ghost(const Box3& box) {
    painter_.setPen(QPen(color::accent, 1.6, Qt::DashLine));
    painter_.setBrush(Qt::NoBrush);
    const Vec3 size = box.high - box.low;
    for (const int axis : {0, 1, 2}) // the twelve edges
        for (const double u : {0.0, 1.0})
            for (const double v : {0.0, 1.0}) {
                Vec3 a(0);
                a[(axis + 1) % 3] = u, a[(axis + 2) % 3] = v;
                Vec3 b = a;
                b[axis] = 1;
                draw_line(painter_, camera_, box.low + a * size, box.low + b * size);
            }
}

void ElementOverlay::draw_sign(const Element& element) {
    if (const auto at = camera_.to_screen(element.at)) draw_element(painter_, *at, kind_of(element), false);
}

void ElementOverlay::draw(const motion::World& world, const motion::PlayState& state) {
    if (world.moving().puzzle)
        draw_in_cells(world, state);
    else if (world.elements())
        draw_freely(world, state);
    for (const Item* item : seen_elements_of(level_)) // what is always there
        if (const Role role = role_of(*item->element()); role == Role::goal) draw_sign(*item->element());
}

void ElementOverlay::draw_in_cells(const motion::World& world, const motion::PlayState& state) {
    const motion::CellPuzzle& puzzle = *world.moving().puzzle;
    const build::WalkedCells& cells = *world.moving().cells;
    const motion::CellState& now = state.puzzle.cells;
    std::map<ItemId, bool> taken, open, on;
    std::map<ItemId, std::pair<Vec2, bool>> elsewhere; // and whether it fills its cell
    for (const auto& thing : puzzle.things) taken[thing.id] = now.has(thing.bit);
    for (size_t i = 0; i < puzzle.doors.size(); ++i)
        open[puzzle.doors[i].id] = motion::is_open(puzzle, now, int(i));
    for (size_t i = 0; i < puzzle.switches.size(); ++i)
        on[puzzle.switches[i].id] = motion::is_on(puzzle, now, int(i));
    for (size_t i = 0; i < puzzle.crates.size(); ++i) {
        if (now.crates[i] == motion::CellState::stored) continue;
        const CellAt corner = puzzle.at(now.crates[i] & ~motion::CellState::filled);
        const double far = (puzzle.crates[i].size - 1) / 2.0 * cells.cell_m;
        const Vec2 middle = cells.middle_of(corner) + Vec2(far, -far);
        const bool fills = now.crates[i] & motion::CellState::filled;
        if (const auto giver = element_of(puzzle.crates[i].id); giver && acts_as(*giver) == "dispenser")
            draw_body(
                with_value(Element{"crate", raised(middle, giver->at.z), 0, {}}, "size_m", cells.cell_m),
                {false, fills ? 0.4 : 1});
        else
            elsewhere[puzzle.crates[i].id] = {middle, fills};
    }
    for (size_t i = 0; i < puzzle.foes.size(); ++i)
        elsewhere[puzzle.foes[i].id] = {cells.middle_of(puzzle.at(motion::cell_of_foe(puzzle, now, int(i)))),
                                        false};
    for (const Item* item : seen_elements_of(level_)) {
        Element element = *item->element();
        if (taken.contains(item->id) && taken.at(item->id)) continue;
        Look look{open.contains(item->id) && open.at(item->id), 1};
        if (const auto there = elsewhere.find(item->id); there != elsewhere.end()) {
            element.at = raised(there->second.first, element.at.z);
            if (there->second.second) look.opacity = 0.4;
        }
        draw_body(element, look);
        const Role role = role_of(element);
        const bool pressed = on.contains(item->id) && on.at(item->id);
        if (role == Role::thing || on.contains(item->id) || acts_as(element) == "foe") {
            painter_.setOpacity(pressed ? 0.4 : 1);
            draw_sign(element);
            painter_.setOpacity(1);
        }
    }
}

void ElementOverlay::draw_freely(const motion::World& world, const motion::PlayState& state) {
    const motion::PlayElements& elements = *world.elements();
    const auto draw_one = [&](const ItemId& id, const Look& look, const Vec3& shift = Vec3(0)) {
        if (const auto element = element_of(id, shift)) draw_body(*element, look);
    };
    for (size_t i = 0; i < elements.doors.size(); ++i)
        draw_one(elements.doors[i].id, {motion::is_open(elements, state.puzzle, int(i)), 1});
    for (const auto& hazard : elements.hazards) draw_one(hazard.id, {});
    for (const auto& barrier : elements.barriers) draw_one(barrier.id, {});
    for (const Item* item : seen_elements_of(level_)) // what acts and never changes
        if (const Sign sign = kind_of(*item->element()).sign;
            sign == Sign::rungs || sign == Sign::arrow || sign == Sign::waves)
            draw_body(*item->element(), {});
    const motion::Shifts shifts = motion::shifts_of(elements, state);
    for (size_t i = 0; i < elements.lifts.size(); ++i) {
        // It is built where it stops first.
        const auto element = element_of(elements.lifts[i].id);
        if (element)
            draw_one(elements.lifts[i].id, {},
                     elements.lifts[i].room.place.at + shifts.movers[i] - element->at);
    }
    for (size_t i = 0; i < elements.crates.size(); ++i)
        draw_one(elements.crates[i].id, {}, shifts.movers[elements.lifts.size() + i]);
    for (size_t i = 0; i < elements.decks.size(); ++i) {
        const auto& deck = elements.decks[i];
        if (deck.gone >= 0 && state.puzzle.cells.has(deck.gone)) continue;
        const size_t clock = elements.clock_of_deck(i);
        const bool cracks = clock < state.clocks.size() && state.clocks[clock] > 0;
        draw_one(deck.id, {cracks, 1});
    }
    for (size_t i = 0; i < elements.foes.size(); ++i) {
        const auto element = element_of(elements.foes[i].id);
        if (!element) continue;
        const Vec3 by = elements.foes[i].room.place.at + shifts.foes[i] - element->at;
        draw_one(elements.foes[i].id, {}, by);
        draw_sign(*element_of(elements.foes[i].id, by));
    }
    for (const auto& thing : elements.things)
        if (const auto element = element_of(thing.id); element && !state.puzzle.cells.has(thing.bit))
            draw_sign(*element);
    for (const auto& press : elements.switches)
        if (const auto element = element_of(press.id)) {
            painter_.setOpacity(state.puzzle.cells.has(press.bit) ? 0.4 : 1);
            draw_sign(*element);
            painter_.setOpacity(1);
        }
}

QString held_text(const motion::World& world, const motion::PlayState& state) {
    QStringList parts;
    using motion::ThingKind;
    const auto tell = [&](const auto& names, const auto& count, ThingKind kind, const char* one,
                          const char* kept) {
        for (size_t i = 0; i < names.size(); ++i) {
            const int n = count(kind, int(i));
            const QString name = QString::fromStdString(names[i]);
            if (n == std::numeric_limits<int>::max())
                parts << tr(kept).arg(name);
            else if (n > 0)
                parts << (n > 1 ? QStringLiteral("%1 × %2").arg(n).arg(tr(one).arg(name))
                                : tr(one).arg(name));
        }
    };
    const auto all = [&](const auto& of, const auto& count) {
        tell(of.keys, count, ThingKind::key, "%1 key", "%1 key, kept");
        tell(of.items, count, ThingKind::item, "%1", "%1");
        tell(of.pick_ups, count, ThingKind::pick_up, "%1", "%1");
    };
    if (const auto& puzzle = world.moving().puzzle)
        all(*puzzle,
            [&](ThingKind kind, int name) { return motion::held(*puzzle, state.puzzle.cells, kind, name); });
    else if (const auto& elements = world.elements())
        all(*elements,
            [&](ThingKind kind, int name) { return motion::held(*elements, state.puzzle, kind, name); });
    return parts.join(QStringLiteral(" · "));
}

} // namespace rubble::app
