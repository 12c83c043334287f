#include "build/joints.h"

#include <algorithm>
#include <cmath>
#include <set>
#include <span>

#include "build/piece_body.h"
#include "geometry/convex_area.h"

namespace rubble::build {

namespace {

constexpr int k_across = JointProfile::across;
/// How much of a side's width is looked at to both sides of it.
constexpr double k_around = 0.125;
/// How far within the side the piece is cut: pieces may end a little short of it (metres).
constexpr double k_within_m = 0.02;
/// Floors and ceilings lie somewhat below or above the sides that they close: pieces are cut there too
/// (metres, and part of the module, within the side).
constexpr double k_beyond_m = -0.1, k_within_part = 0.06;
/// How many squares two profiles of one kind may differ in.
constexpr size_t k_alike = size_t(k_across) * k_across / 250;
/// The part of a side without openings that is matter where it is closed.
constexpr double k_closed = 0.6;

int first_inside() { return int(std::ceil(k_around / (1 + 2 * k_around) * k_across)); }
int end_inside() { return k_across - first_inside(); }

/// Where a row's or column's middle lies over the side, 0 to 1 within it.
double share_at(int i) { return (i + 0.5) / k_across * (1 + 2 * k_around) - k_around; }
/// The first whose middle is not before a share.
int first_from(double share) {
    return int(std::clamp(std::ceil((share + k_around) / (1 + 2 * k_around) * k_across - 0.5), 0.0,
                          double(k_across)));
}

/// The section of a convex body some way within a side, in shares of the side from its lower left.
geometry::ConvexArea section(const geometry::ConvexCell& cell, const CellSide& side, double within_m) {
    const Vec3 at = side.middle - side.out * within_m;
    std::vector<Vec2> points;
    const auto in_side = [&](const Vec3& p) {
        const Vec3 d = p - side.middle;
        return Vec2(glm::dot(d, side.right) / glm::dot(side.right, side.right),
                    glm::dot(d, side.up) / glm::dot(side.up, side.up)) +
               Vec2(0.5);
    };
    for (const auto& face : cell.faces)
        for (size_t i = 0; i < face.loop.size(); ++i) {
            const Vec3 &p = face.loop[i], &q = face.loop[(i + 1) % face.loop.size()];
            const double a = glm::dot(p - at, side.out), b = glm::dot(q - at, side.out);
            if ((a < 0) != (b < 0)) points.push_back(in_side(p + (q - p) * (a / (a - b))));
        }
    return points.size() < 3 ? geometry::ConvexArea{} : geometry::hull(points);
}

void fill(JointProfile& profile, const geometry::ConvexArea& area) {
    double low = 1e9, high = -1e9;
    for (const Vec2& p : area) low = std::min(low, p.y), high = std::max(high, p.y);
    for (int row = first_from(low); row < k_across && share_at(row) <= high; ++row) {
        const double y = share_at(row);
        double left = 1e9, right = -1e9;
        for (size_t i = 0; i < area.size(); ++i) {
            const Vec2 a = area[i], b = area[(i + 1) % area.size()];
            if ((a.y <= y) == (b.y <= y)) continue;
            const double x = a.x + (b.x - a.x) * (y - a.y) / (b.y - a.y);
            left = std::min(left, x), right = std::max(right, x);
        }
        for (int column = first_from(left); column < k_across && share_at(column) < right; ++column)
            profile.rows[size_t(row)].set(size_t(column));
    }
}

/// How many squares of the side itself are matter.
size_t matter_inside(const JointProfile& profile) {
    size_t count = 0;
    for (int row = first_inside(); row < end_inside(); ++row)
        for (int column = first_inside(); column < end_inside(); ++column)
            count += profile.rows[size_t(row)].test(size_t(column));
    return count;
}

/// Leaves of a profile of matter what is open with matter all around it; unchanged where nothing is.
void take_openings(JointProfile& profile) {
    std::array<std::bitset<k_across>, k_across> seen = profile.rows, openings;
    bool any = false;
    for (int row = 0; row < k_across; ++row)
        for (int column = 0; column < k_across; ++column) {
            if (seen[size_t(row)].test(size_t(column))) continue;
            std::vector<std::array<int, 2>> area{{column, row}};
            seen[size_t(row)].set(size_t(column));
            bool enclosed = true;
            for (size_t i = 0; i < area.size(); ++i) {
                const auto [x, y] = area[i];
                for (const auto& [dx, dy] : {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}}) {
                    const int u = x + dx, v = y + dy;
                    const bool outside = u < 0 || v < 0 || u >= k_across || v >= k_across;
                    enclosed &= !outside;
                    if (outside || seen[size_t(v)].test(size_t(u))) continue;
                    seen[size_t(v)].set(size_t(u));
                    area.push_back({u, v});
                }
            }
            if (!enclosed || area.size() <= k_alike) continue;
            any = true;
            for (const auto& [x, y] : area) openings[size_t(y)].set(size_t(x));
        }
    if (any) profile.rows = openings, profile.opening = true;
}

std::string metres_in_name(double m) {
    char text[32];
    std::snprintf(text, sizeof text, "%g", std::round(m * 10) / 10);
    return text;
}

/// What a profile is called, by what it is.
std::string name_of(const JointProfile& profile) {
    int low = k_across, high = -1, left = k_across, right = -1;
    for (int row = 0; row < k_across; ++row)
        for (int column = 0; column < k_across; ++column) {
            if (!profile.rows[size_t(row)].test(size_t(column))) continue;
            low = std::min(low, row), high = row;
            left = std::min(left, column), right = std::max(right, column);
        }
    const double square = (1 + 2 * k_around) / k_across;
    if (profile.opening)
        return "opening " + metres_in_name((right - left + 1) * square * profile.right_m) + " x " +
               metres_in_name((high - low + 1) * square * profile.up_m);
    if (high - low < k_across / 4) return "floor";
    return right - left < k_across / 4 ? "wall" : "side";
}

struct Kind {
    JointProfile profile;
    std::string name;
};

/// The kinds that were met so far.
class Kinds {
public:
    void add(JointProfile profile, const std::string& name) {
        names_.insert(name);
        known_.push_back({std::move(profile), name});
    }

    std::string kind_of(const JointProfile& profile) {
        for (const Kind& kind : known_) {
            if (kind.profile.is_like(profile)) return kind.name;
            if (kind.profile.is_like(profile.from_within())) return other_hand(kind.name);
        }
        std::string name = name_of(profile);
        if (!profile.is_like(profile.from_within())) name += " +";
        std::string fresh = name;
        for (int n = 2; names_.contains(fresh) || names_.contains(other_hand(fresh)); ++n) {
            const bool handed = name.ends_with(" +");
            const std::string base = handed ? name.substr(0, name.size() - 2) : name;
            fresh = base + " " + std::to_string(n) + (handed ? " +" : "");
        }
        add(profile, fresh);
        return fresh;
    }

private:
    static std::string other_hand(std::string name) {
        if (!name.empty() && name.back() == '+')
            name.back() = '-';
        else if (!name.empty() && name.back() == '-')
            name.back() = '+';
        return name;
    }

    std::vector<Kind> known_;
    std::set<std::string> names_;
};

/// What of some matter makes a joint at a side; nothing where nothing does.
std::optional<JointProfile> profile_through(const CellSide& place,
                                            std::span<const geometry::ConvexCell> cells) {
    JointProfile out{glm::length(place.right), glm::length(place.up), false, {}};
    const bool lies = std::abs(place.out.z) > 0.5;
    std::vector<double> within{k_within_m};
    if (lies) // the way in is what a module is high
        within.insert(within.end(), {-k_within_m, k_beyond_m, k_within_part * place.depth_m});
    for (const geometry::ConvexCell& matter : cells)
        for (const double how_far : within)
            if (const auto area = section(matter, place, how_far); area.size() >= 3) fill(out, area);
    size_t all = 0;
    for (const auto& row : out.rows) all += row.count();
    if (all <= k_alike) return {};
    const double side = double(end_inside() - first_inside()),
                 part = double(matter_inside(out)) / (side * side);
    take_openings(out);
    if (!out.opening && (lies || part >= k_closed)) return {};
    return out;
}

template <class F> void for_each_outer_side(const PieceCells& cells, F visit) {
    const auto& n = cells.count;
    for (int x = 0; x < n[0]; ++x)
        for (int y = 0; y < n[1]; ++y)
            for (int z = 0; z < n[2]; ++z) {
                const std::array<int, 3> cell{x, y, z};
                if (x == 0) visit(cell, ModuleSide::left);
                if (x == n[0] - 1) visit(cell, ModuleSide::right);
                if (y == 0) visit(cell, ModuleSide::near);
                if (y == n[1] - 1) visit(cell, ModuleSide::away);
                if (z == 0) visit(cell, ModuleSide::bottom);
                if (z == n[2] - 1) visit(cell, ModuleSide::top);
            }
}

} // namespace

JointProfile JointProfile::from_within() const {
    JointProfile out{right_m, up_m, opening, {}};
    for (size_t row = 0; row < rows.size(); ++row)
        for (size_t column = 0; column < size_t(across); ++column)
            out.rows[row][column] = rows[row][size_t(across) - 1 - column];
    return out;
}

bool JointProfile::is_like(const JointProfile& other) const {
    if (opening != other.opening || std::abs(right_m - other.right_m) > 1e-6 ||
        std::abs(up_m - other.up_m) > 1e-6)
        return false;
    size_t differ = 0;
    for (size_t row = 0; row < rows.size(); ++row) differ += (rows[row] ^ other.rows[row]).count();
    return differ <= k_alike;
}

std::optional<JointProfile> profile_of(const Kit& kit, const Piece& piece, const std::array<int, 3>& cell,
                                       ModuleSide side) {
    if (!piece.body) return {};
    const auto matter = matter_by(piece, PieceCollisionKind::faces);
    return profile_through(side_of(kit, cells_of(kit, piece), cell, side), matter);
}

Kit with_joints_found(Kit kit) {
    Kinds kinds;
    for (const auto& piece : kit.pieces)
        if (piece->joints_by_hand)
            for (const Joint& joint : piece->joints)
                if (auto profile = profile_of(kit, *piece, joint.cell, joint.side))
                    kinds.add(std::move(*profile), joint.kind);
    for (auto& piece : kit.pieces) {
        if (piece->joints_by_hand || !piece->body) continue;
        std::vector<Joint> joints;
        const PieceCells cells = cells_of(kit, *piece);
        const auto matter = matter_by(*piece, PieceCollisionKind::faces);
        for_each_outer_side(cells, [&](const std::array<int, 3>& cell, ModuleSide side) {
            const auto profile = profile_through(side_of(kit, cells, cell, side), matter);
            if (!profile) return;
            joints.push_back({cell, side, kinds.kind_of(*profile), profile->opening});
        });
        if (joints == piece->joints) continue;
        Piece changed = *piece;
        changed.joints = std::move(joints);
        piece = std::make_shared<const Piece>(std::move(changed));
    }
    return kit;
}

} // namespace rubble::build
