#include "build/bring_in.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <filesystem>
#include <functional>
#include <map>
#include <numeric>
#include <set>

#include "build/joints.h"
#include "build/mesh_matter.h"
#include "build/piece_body.h"
#include "level/brush.h"

namespace rubble::build {

namespace {

/// How far a size may be off a whole number of modules (of the module).
constexpr double k_whole = 0.03;
/// Largest piece that is no more than an ornament (metres).
constexpr double k_ornament_m = 0.35;

bool is_whole(double size, double module) {
    const double n = size / module;
    return n > 0.5 && std::abs(n - std::round(n)) <= k_whole;
}

/// How well a size fits a module: its lengths along the ground count for more than its height.
int fit_of(const Vec3& size, const Vec3& module) {
    return 2 * is_whole(size.x, module.x) + 2 * is_whole(size.y, module.y) + is_whole(size.z, module.z);
}

Box3 box_in_file(const Model& model) { return numbers_of(model).box; }

Vec3 size_as(const Box3& box, double scale, bool y_up) {
    const Vec3 size = (box.high - box.low) * scale;
    return y_up ? Vec3(size.x, size.z, size.y) : size;
}

OriginRule rule_of(const Box3& box) {
    constexpr double k_near_m = 0.02;
    const Vec3 middle = box.middle();
    if (glm::length(flat(box.low)) <= k_near_m) return OriginRule::corner;
    if (glm::length(flat(middle)) <= k_near_m && std::abs(box.low.z) <= k_near_m)
        return OriginRule::middle_of_base;
    return OriginRule::as_it_is;
}

/// The rule that most of some follow.
OriginRule usual_rule(const std::vector<OriginRule>& rules) {
    std::map<OriginRule, int> counts;
    for (const OriginRule rule : rules) ++counts[rule];
    OriginRule best = OriginRule::as_it_is;
    for (const auto& [rule, count] : counts)
        if (count > counts[best]) best = rule;
    return best;
}

Vec3 origin_by(OriginRule rule, const Box3& box) {
    switch (rule) {
    case OriginRule::corner:
        return box.low;
    case OriginRule::middle_of_base:
        return {box.middle().x, box.middle().y, box.low.z};
    case OriginRule::as_it_is:
        break;
    }
    return Vec3(0);
}

/// What a name begins with, up to its first mark, and whether it has capitals.
std::pair<std::string, bool> scheme_of(const std::string& name) {
    const size_t mark = name.find_first_of("_- .");
    const bool capitals =
        std::any_of(name.begin(), name.end(), [](unsigned char c) { return std::isupper(c); });
    return {mark == std::string::npos ? std::string() : name.substr(0, mark), capitals};
}

/// The names that do not follow the scheme of most.
std::set<size_t> odd_names(const std::vector<BroughtPiece>& pieces) {
    std::map<std::string, int> prefixes;
    std::map<bool, int> capitals;
    for (const BroughtPiece& piece : pieces) {
        const auto [prefix, capital] = scheme_of(piece.piece.name);
        ++prefixes[prefix], ++capitals[capital];
    }
    const auto most = std::max_element(prefixes.begin(), prefixes.end(),
                                       [](const auto& a, const auto& b) { return a.second < b.second; });
    std::set<size_t> out;
    const int n = int(pieces.size());
    for (size_t i = 0; i < pieces.size() && n > 2; ++i) {
        const auto [prefix, capital] = scheme_of(pieces[i].piece.name);
        const bool other_prefix = 2 * most->second > n && !most->first.empty() && prefix != most->first;
        const bool other_case = 4 * capitals[!capital] > 3 * n;
        if (other_prefix || other_case) out.insert(i);
    }
    return out;
}

/// The level tops of a piece by their heights, with area and middle.
struct Tread {
    double area = 0;
    Vec3 middle{0};
};

std::vector<Tread> treads_of(const Piece& piece) {
    std::map<int, Tread> treads; // by height in centimetres
    for (const ModelPart& part : piece.body->model.parts)
        for (const auto& t : part.triangles) {
            const Vec3 &a = part.points[t[0]], &b = part.points[t[1]], &c = part.points[t[2]];
            const Vec3 area = glm::cross(b - a, c - a) * 0.5;
            if (!(area.z > 0.999 * glm::length(area)) || area.z <= 0) continue;
            Tread& tread = treads[int(std::lround(a.z * 100))];
            tread.area += area.z, tread.middle += (a + b + c) / 3.0 * area.z;
        }
    std::vector<Tread> out;
    for (auto& [height, tread] : treads) out.push_back({tread.area, tread.middle / tread.area});
    return out;
}

} // namespace

std::string piece_id_from(const std::string& name) {
    std::string out;
    for (const unsigned char c : name) out += std::isalnum(c) ? char(std::tolower(c)) : '_';
    while (out.starts_with('_')) out.erase(0, 1);
    while (out.ends_with('_')) out.pop_back();
    return out.empty() ? "piece" : out;
}

BroughtPiece brought(const std::string& path, Model model) {
    BroughtPiece out;
    out.path = path;
    out.model = std::make_shared<const Model>(std::move(model));
    const std::filesystem::path file(path);
    out.piece.file = file.filename().string();
    out.piece.name = file.stem().string();
    out.piece.id = piece_id_from(out.piece.name);
    return out;
}

BringIn proposed(const std::vector<BroughtPiece>& files, const Vec3& module_m) {
    // The plainest first: one that comes later must fit better.
    constexpr double k_scales[] = {1, 0.01, 0.001, 100, 0.0254, 0.3048, 0.1, 10};
    BringIn best;
    best.module_m = module_m;
    std::vector<Box3> boxes;
    for (const BroughtPiece& file : files) boxes.push_back(box_in_file(*file.model));
    int most = -1;
    bool most_fit = false;
    for (const double scale : k_scales) {
        if (most_fit) break; // where most fit, nobody meant them otherwise
        for (const bool y_up : {true, false}) {
            int fit = 0, on_module = 0;
            for (const Box3& box : boxes) {
                const Vec3 size = size_as(box, scale, y_up);
                const double largest = std::max({size.x, size.y, size.z});
                fit += fit_of(size, module_m) + (largest > 0.1 && largest < 20 * module_m.x);
                on_module += fit_of(size, module_m) >= 2;
            }
            if (fit <= most) continue;
            most = fit, best.scale = scale, best.y_up = y_up;
            most_fit = 2 * on_module >= int(boxes.size());
        }
    }
    std::vector<OriginRule> rules;
    for (const BroughtPiece& file : files) {
        Piece piece = file.piece;
        piece.scale = best.scale, piece.y_up = best.y_up, piece.collision.kind = PieceCollisionKind::none;
        rules.push_back(rule_of(piece_body(piece, *file.model).box));
    }
    // Where all lie alike, that is how they are meant.
    const bool alike = std::adjacent_find(rules.begin(), rules.end(), std::not_equal_to<>()) == rules.end();
    best.origin = alike ? OriginRule::as_it_is : usual_rule(rules);
    return best;
}

double usual_height(const std::vector<BroughtPiece>& files, const BringIn& how) {
    constexpr double k_least_m = 2, k_step_m = 0.1;
    std::map<long, int> heights;
    int tall = 0;
    for (const BroughtPiece& file : files) {
        const double height = size_as(box_in_file(*file.model), how.scale, how.y_up).z;
        if (height < k_least_m) continue;
        ++tall, ++heights[std::lround(height / k_step_m)];
    }
    for (const auto& [steps, count] : heights)
        if (2 * count > tall) return double(steps) * k_step_m;
    return 0;
}

PieceCollision proposed_collision(const Piece& piece) {
    constexpr double k_alike = 1e-3;
    PieceCollision out;
    const Box3& box = piece.body->box;
    const Vec3 size = box.high - box.low;
    if (std::max({size.x, size.y, size.z}) < k_ornament_m) {
        out.kind = PieceCollisionKind::none;
        return out;
    }
    const TriangleMesh mesh = mesh_of(piece.body->model.parts);
    if (!is_closed(mesh)) return out;
    const double volume = std::abs(volume_of(mesh)), of_box = size.x * size.y * size.z;
    if (volume >= of_box * (1 - k_alike))
        out.kind = PieceCollisionKind::box;
    else if (const geometry::ConvexCell hull = hull_of(mesh.points);
             !hull.empty() && volume >= hull.volume() * (1 - k_alike))
        out.kind = PieceCollisionKind::hull;
    return out;
}

BroughtPiece with_collision(BroughtPiece brought, PieceCollisionKind kind) {
    brought.piece.collision.kind = kind;
    if (kind == PieceCollisionKind::brushes && brought.piece.collision.items.empty())
        brought.piece.collision.items = ramp_for_stairs(brought.piece);
    brought.piece.body = std::make_shared<const PieceBody>(piece_body(brought.piece, *brought.model));
    return brought;
}

ItemList ramp_for_stairs(const Piece& piece) {
    constexpr double k_least_rise = 0.04, k_most_rise = 0.6;
    if (!piece.body) return {};
    std::vector<Tread> treads = treads_of(piece);
    // The treads of stairs rise evenly and go on evenly, one way.
    for (size_t first = 0; first + 3 <= treads.size(); ++first) {
        size_t last = first;
        const Vec3 step = treads[first + 1].middle - treads[first].middle;
        if (!(step.z >= k_least_rise && step.z <= k_most_rise)) continue;
        while (last + 1 < treads.size()) {
            const Vec3 next = treads[last + 1].middle - treads[last].middle;
            if (std::abs(next.z - step.z) > 0.02 || glm::length(flat(next) - flat(step)) > 0.1) break;
            ++last;
        }
        if (last < first + 2 || glm::length(flat(step)) < 0.1) continue;
        // From one step before the lowest tread up to the edge of the highest.
        const int along = std::abs(step.x) > std::abs(step.y) ? 0 : 1, across = 1 - along;
        const Vec3 size = piece.body->box.high - piece.body->box.low;
        const double run = std::abs(step[along]) * double(last - first + 1),
                     rise = step.z * double(last - first + 1);
        Brush ramp;
        ramp.shape = Shape::ramp;
        ramp.size = {run, size[across], rise};
        const double sign = step[along] > 0 ? 1 : -1;
        Vec3 at = treads[first].middle;
        at[along] += step[along] * (double(last - first) / 2 - 0.5);
        at[across] = piece.body->box.middle()[across];
        at.z = treads[first].middle.z - step.z;
        ramp.place.at = at;
        ramp.place.turn_deg = along == 0 ? (sign > 0 ? 0 : 180) : (sign > 0 ? 90 : -90);
        Item item;
        item.id = {"ramp"}, item.body = ramp;
        return ItemList({ItemPtr(std::move(item))});
    }
    return {};
}

std::vector<BroughtPiece> pieces_of(const std::vector<BroughtPiece>& files, const BringIn& how) {
    std::vector<BroughtPiece> out;
    std::set<std::string> ids;
    std::vector<OriginRule> rules;
    for (const BroughtPiece& file : files) {
        std::vector<std::string> nodes{""};
        if (how.own_pieces && file.model->nodes.size() > 1) nodes = file.model->nodes;
        for (const std::string& node : nodes) {
            BroughtPiece made = file;
            Piece& piece = made.piece;
            made.oddities.clear();
            if (!node.empty()) piece.node = piece.name = node, piece.id = piece_id_from(node);
            const std::string wanted = piece.id;
            for (int n = 2; !ids.insert(piece.id).second; ++n) piece.id = wanted + "_" + std::to_string(n);
            piece.scale = how.scale, piece.y_up = how.y_up, piece.origin_m = Vec3(0);
            piece.collision.kind = PieceCollisionKind::none;
            const Box3 box = piece_body(piece, *file.model).box;
            if (box.empty()) continue;
            rules.push_back(rule_of(box));
            piece.origin_m = rules.back() == how.origin ? Vec3(0) : origin_by(how.origin, box);
            piece.size_m = box.high - box.low;
            piece.body = std::make_shared<const PieceBody>(piece_body(piece, *file.model));
            piece.collision = proposed_collision(piece);
            piece.body = std::make_shared<const PieceBody>(piece_body(piece, *file.model));
            const auto say = [&](Oddity oddity, bool holds) {
                if (holds) made.oddities.push_back(oddity);
            };
            const Vec3 plain = size_as(box_in_file(*file.model), 1, true);
            const int fit = fit_of(piece.size_m, how.module_m);
            say(Oddity::scaled, (how.scale != 1 || !how.y_up) && fit > fit_of(plain, how.module_m));
            say(Oddity::off_module, fit < 2 && std::max(piece.size_m.x, piece.size_m.y) > how.module_m.x / 2);
            say(Oddity::many_objects, node.empty() && file.model->nodes.size() > 1);
            const TriangleMesh mesh = mesh_of(piece.body->model.parts);
            const bool closed = is_closed(mesh);
            say(Oddity::inside_out, closed && volume_of(mesh) < 0);
            say(Oddity::open_faces, !closed && piece.collision.kind == PieceCollisionKind::faces);
            say(Oddity::hull_only, !piece.body->remark.empty());
            say(Oddity::stairs, !ramp_for_stairs(piece).empty());
            out.push_back(std::move(made));
        }
    }
    const OriginRule usual = usual_rule(rules);
    const std::set<size_t> named = odd_names(out);
    for (size_t i = 0; i < out.size(); ++i) {
        if (rules[i] != usual && out.size() > 1) out[i].oddities.push_back(Oddity::other_origin);
        if (named.contains(i)) out[i].oddities.push_back(Oddity::other_name);
    }
    return out;
}

} // namespace rubble::build
