#include "check/maze.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <map>
#include <optional>
#include <queue>
#include <utility>

#include "geometry/thinning.h"

namespace rubble::check {

namespace {

using geometry::Raster;

constexpr double k_most_pixels = 3e6;
/// Tried ways of which the longest is taken.
constexpr int k_most_tries = 200'000;
constexpr size_t k_most_shortcuts = 8;
constexpr std::array<std::array<int, 2>, 4> k_beside{{{1, 0}, {0, -1}, {-1, 0}, {0, 1}}};

/// The places where one can be, as pixels; rows count downwards.
struct Plan {
    Raster free;
    Vec2 corner{0}; ///< upper left
    double pixel_m = 1;
    bool by_cells = false;

    Vec2 place(int pixel) const {
        return corner + Vec2(pixel % free.columns + 0.5, -(pixel / free.columns) - 0.5) * pixel_m;
    }
    int beside(int pixel, const std::array<int, 2>& by) const {
        const int column = pixel % free.columns + by[0], row = pixel / free.columns + by[1];
        return free.at(column, row) ? int(free.index(column, row)) : -1;
    }
};

std::optional<Plan> plan_by_cells(const build::WalkedCells& cells) {
    if (double(cells.columns) * cells.rows > k_most_pixels) return {};
    Plan plan{{cells.columns, cells.rows, {}}, cells.corner, cells.cell_m, true};
    plan.free.set.reserve(cells.kinds.size());
    for (const auto kind : cells.kinds) plan.free.set.push_back(kind == build::WalkedCells::Kind::free);
    return plan;
}

/// Sets the pixels that a convex area touches: what is passed is passed however narrow the free strip is, and
/// two areas that a body parts are farther apart than two pixels.
void fill(Plan& plan, const geometry::ConvexArea& area) {
    Box2 box;
    for (const Vec2& p : area) box.add(p);
    const auto row_of = [&](double y) { return int(std::floor((plan.corner.y - y) / plan.pixel_m)); };
    const auto column_of = [&](double x) { return int(std::floor((x - plan.corner.x) / plan.pixel_m)); };
    const int first = std::max(0, row_of(box.high.y)), last = std::min(plan.free.rows - 1, row_of(box.low.y));
    for (int row = first; row <= last; ++row) {
        const double top = plan.corner.y - row * plan.pixel_m, bottom = top - plan.pixel_m;
        double low = std::numeric_limits<double>::infinity(), high = -low;
        const auto reach = [&](double x) { low = std::min(low, x), high = std::max(high, x); };
        for (size_t i = 0; i < area.size(); ++i) {
            const Vec2 a = area[i], b = area[(i + 1) % area.size()];
            if (a.y >= bottom && a.y <= top) reach(a.x);
            for (const double y : {bottom, top})
                if ((a.y < y) != (b.y < y)) reach(a.x + (b.x - a.x) * (y - a.y) / (b.y - a.y));
        }
        if (low > high) continue;
        const int from = std::max(0, column_of(low)), to = std::min(plan.free.columns - 1, column_of(high));
        for (int column = from; column <= to; ++column) plan.free.set[plan.free.index(column, row)] = 1;
    }
}

/// The places of one ledge; `within` is what of the plane is looked at.
std::optional<Plan> plan_of(const Ground& ground, int ledge, const Box2& within, double radius_m) {
    if (ground.cells) return plan_by_cells(*ground.cells);
    const Vec2 size = within.high - within.low;
    const double pixel = std::max(radius_m / 2, std::sqrt(size.x * size.y / k_most_pixels));
    // Coarser, it would join what a thin wall parts.
    if (!(pixel <= radius_m * 0.9) || size.x <= 0 || size.y <= 0) return {};
    Plan plan{{int(std::ceil(size.x / pixel)), int(std::ceil(size.y / pixel)), {}},
              {within.low.x, within.high.y},
              pixel,
              false};
    plan.free.set.assign(size_t(plan.free.columns) * size_t(plan.free.rows), 0);
    for (const Fragment& fragment : ground.fragments)
        if (fragment.ledge == ledge) fill(plan, fragment.area);
    return plan;
}

/// The free pixel nearest to a place, at most a few away; -1 for none.
int pixel_near(const Plan& plan, Vec2 place) {
    constexpr int k_few = 4;
    const Vec2 at = (place - plan.corner) / plan.pixel_m;
    const int column = int(std::floor(at.x)), row = int(std::floor(-at.y));
    int best = -1, least = std::numeric_limits<int>::max();
    for (int dy = -k_few; dy <= k_few; ++dy)
        for (int dx = -k_few; dx <= k_few; ++dx)
            if (plan.free.at(column + dx, row + dy) && dx * dx + dy * dy < least)
                least = dx * dx + dy * dy, best = int(plan.free.index(column + dx, row + dy));
    return best;
}

/// From where each pixel was come to, beginning with some, in the order of their distance; -1: not at all.
template <class Last> std::vector<int> spread(const Plan& plan, std::vector<int> first, Last is_last) {
    std::vector<int> came(plan.free.set.size(), -1);
    std::queue<int> open;
    for (const int pixel : first) came[size_t(pixel)] = pixel, open.push(pixel);
    while (!open.empty()) {
        const int pixel = open.front();
        open.pop();
        if (is_last(pixel)) break;
        for (const auto& by : k_beside)
            if (const int next = plan.beside(pixel, by); next >= 0 && came[size_t(next)] < 0)
                came[size_t(next)] = pixel, open.push(next);
    }
    return came;
}

/// How many pixels it is to the nearest that is not free, also across corners; 1 beside it.
std::vector<int> depths_of(const Plan& plan) {
    const Raster& free = plan.free;
    std::vector<int> depth(free.set.size(), 0);
    std::queue<int> open;
    const auto around = [&](int pixel, auto visit) {
        for (int dy = -1; dy <= 1; ++dy)
            for (int dx = -1; dx <= 1; ++dx) visit(pixel % free.columns + dx, pixel / free.columns + dy);
    };
    for (size_t i = 0; i < depth.size(); ++i) {
        if (!free.set[i]) continue;
        bool beside = false;
        around(int(i), [&](int column, int row) { beside |= !free.at(column, row); });
        if (beside) depth[i] = 1, open.push(int(i));
    }
    while (!open.empty()) {
        const int pixel = open.front();
        open.pop();
        around(pixel, [&](int column, int row) {
            if (!free.at(column, row) || depth[free.index(column, row)] != 0) return;
            depth[free.index(column, row)] = depth[size_t(pixel)] + 1;
            open.push(int(free.index(column, row)));
        });
    }
    return depth;
}

struct Corridor {
    int a = 0, b = 0;        ///< nodes
    std::vector<int> pixels; ///< from a to b, both included
    double length_m = 0;
    bool gone = false;
};

/// The middle lines as corridors between places where they part, end, begin or lead.
class Graph {
public:
    Graph(const Plan& plan, const Raster& lines, int start, int goal)
        : plan_(plan),
          lines_(plan),
          start_(start),
          goal_(goal) {
        lines_.free = lines;
        node_of_.assign(lines.set.size(), -1);
        for (size_t i = 0; i < lines.set.size(); ++i)
            if (lines.set[i] && (int(i) == start || int(i) == goal || sides(int(i)) != 2)) node_at(int(i));
        for (int node = 0; node < int(pixels_.size()); ++node)
            for (const auto& by : k_beside)
                if (const int next = lines_.beside(pixels_[size_t(node)], by); next >= 0) trace(node, next);
        at_.resize(pixels_.size());
        for (size_t c = 0; c < corridors.size(); ++c) {
            at_[size_t(corridors[c].a)].push_back(int(c));
            if (corridors[c].b != corridors[c].a) at_[size_t(corridors[c].b)].push_back(int(c));
        }
    }

    std::vector<Corridor> corridors;

    int start() const { return node_of_[size_t(start_)]; }
    int goal() const { return node_of_[size_t(goal_)]; }
    int pixel(int node) const { return pixels_[size_t(node)]; }
    const std::vector<int>& at(int node) const { return at_[size_t(node)]; }
    int across(int corridor, int node) const {
        const Corridor& c = corridors[size_t(corridor)];
        return c.a == node ? c.b : c.a;
    }
    int degree(int node) const {
        int count = 0;
        for (const int c : at(node))
            if (!corridors[size_t(c)].gone) count += corridors[size_t(c)].a == corridors[size_t(c)].b ? 2 : 1;
        return count;
    }

    /// Takes off, again and again, what hangs by one end and is no start or goal, where `goes` says so; the
    /// corridors taken, those at the ends first.
    template <class Goes> std::vector<int> peeled(Goes goes) {
        std::vector<int> out, open;
        for (int node = 0; node < int(pixels_.size()); ++node) open.push_back(node);
        while (!open.empty()) {
            const int node = open.back();
            open.pop_back();
            if (node == start() || node == goal() || degree(node) != 1) continue;
            for (const int c : at(node)) {
                if (corridors[size_t(c)].gone || !goes(corridors[size_t(c)], across(c, node))) continue;
                corridors[size_t(c)].gone = true;
                out.push_back(c);
                open.push_back(across(c, node));
            }
        }
        return out;
    }

    /// The corridors of the shortest way from start to goal, without one of them; nothing where none leads.
    std::optional<std::vector<int>> shortest(int without = -1) const {
        std::vector<double> far(pixels_.size(), std::numeric_limits<double>::infinity());
        std::vector<int> by(pixels_.size(), -1);
        using Open = std::pair<double, int>;
        std::priority_queue<Open, std::vector<Open>, std::greater<>> open;
        far[size_t(start())] = 0, open.push({0, start()});
        while (!open.empty()) {
            const auto [length, node] = open.top();
            open.pop();
            if (length > far[size_t(node)]) continue;
            for (const int c : at(node)) {
                if (c == without || corridors[size_t(c)].gone) continue;
                const int next = across(c, node);
                const double sum = length + corridors[size_t(c)].length_m;
                if (sum < far[size_t(next)])
                    far[size_t(next)] = sum, by[size_t(next)] = c, open.push({sum, next});
            }
        }
        if (by[size_t(goal())] < 0 && goal() != start()) return {};
        std::vector<int> way;
        for (int node = goal(); node != start(); node = across(way.back(), node))
            way.push_back(by[size_t(node)]);
        std::reverse(way.begin(), way.end());
        return way;
    }

    /// Tries the ways that go nowhere twice; the longest, and whether all were tried.
    std::pair<std::vector<int>, bool> longest() const {
        Search search{std::vector<char>(pixels_.size(), 0), {}, {}, 0, 0, k_most_tries};
        search.been[size_t(start())] = 1;
        go_on(start(), search);
        return {search.best, search.tries_left > 0};
    }

    double length_of(const std::vector<int>& way) const {
        double sum = 0;
        for (const int c : way) sum += corridors[size_t(c)].length_m;
        return sum;
    }
    /// The places along some corridors that follow one another, from a node on.
    Maze::Way way_from(int node, const std::vector<int>& corridors_on_it) const {
        Maze::Way way;
        for (const int c : corridors_on_it) {
            std::vector<int> pixels = corridors[size_t(c)].pixels;
            if (corridors[size_t(c)].a != node) std::reverse(pixels.begin(), pixels.end());
            for (const int pixel : pixels) way.places.push_back(plan_.place(pixel));
            way.length_m += corridors[size_t(c)].length_m;
            node = across(c, node);
        }
        return way;
    }

private:
    struct Search {
        std::vector<char> been;
        std::vector<int> now, best;
        double length_m, most_m;
        int tries_left;
    };

    int sides(int pixel) const {
        int count = 0;
        for (const auto& by : k_beside) count += lines_.beside(pixel, by) >= 0;
        return count;
    }

    int node_at(int pixel) {
        int& node = node_of_[size_t(pixel)];
        if (node < 0) node = int(pixels_.size()), pixels_.push_back(pixel);
        return node;
    }

    /// Follows a line from a node; each is kept once, from the end whose pixel comes first.
    void trace(int node, int next) {
        Corridor corridor{node, 0, {pixels_[size_t(node)], next}, 0, false};
        while (node_of_[size_t(corridor.pixels.back())] < 0) {
            const int here = corridor.pixels.back(), before = corridor.pixels[corridor.pixels.size() - 2];
            for (const auto& by : k_beside)
                if (const int further = lines_.beside(here, by); further >= 0 && further != before) {
                    corridor.pixels.push_back(further);
                    break;
                }
        }
        corridor.b = node_of_[size_t(corridor.pixels.back())];
        const int first = corridor.pixels[1], last = corridor.pixels[corridor.pixels.size() - 2];
        const bool kept = corridor.a != corridor.b ? corridor.a < corridor.b : first < last;
        if (!kept) return;
        corridor.length_m = length_of_line(corridor.pixels);
        corridors.push_back(std::move(corridor));
    }

    /// Cells are walked step by step; else the line of pixels is taken at every fourth, to lie as one walks.
    double length_of_line(const std::vector<int>& pixels) const {
        if (plan_.by_cells) return double(pixels.size() - 1) * plan_.pixel_m;
        constexpr size_t k_step = 4;
        double sum = 0;
        for (size_t i = 0; i + 1 < pixels.size(); i += k_step)
            sum += glm::distance(plan_.place(pixels[i]),
                                 plan_.place(pixels[std::min(i + k_step, pixels.size() - 1)]));
        return sum;
    }

    void go_on(int node, Search& search) const {
        if (--search.tries_left < 0) return;
        if (node == goal()) {
            if (search.length_m > search.most_m || search.best.empty())
                search.most_m = search.length_m, search.best = search.now;
            return;
        }
        for (const int c : at(node)) {
            const int next = across(c, node);
            if (corridors[size_t(c)].gone || search.been[size_t(next)]) continue;
            search.been[size_t(next)] = 1, search.now.push_back(c);
            search.length_m += corridors[size_t(c)].length_m;
            go_on(next, search);
            search.length_m -= corridors[size_t(c)].length_m;
            search.been[size_t(next)] = 0, search.now.pop_back();
        }
    }

    const Plan& plan_;
    Plan lines_;
    int start_, goal_;
    std::vector<int> node_of_, pixels_;
    std::vector<std::vector<int>> at_;
};

/// The free width at a place, the lesser of that along both axes.
double width_at(const motion::World& world, Vec2 place) {
    constexpr double k_far_m = 25;
    double width = 2 * k_far_m;
    for (int axis = 0; axis < 2; ++axis) {
        double low = -k_far_m, high = k_far_m;
        Box2 line{place, place};
        line.low[axis] -= k_far_m, line.high[axis] += k_far_m;
        world.for_near(line, [&](int i) {
            const motion::Column& column = world.columns()[size_t(i)];
            if (column.high <= 0) return; // the floor
            const geometry::ConvexArea& area = column.area;
            for (size_t k = 0; k < area.size(); ++k) {
                const Vec2 a = area[k], b = area[(k + 1) % area.size()];
                const int other = 1 - axis;
                if ((a[other] <= place[other]) == (b[other] <= place[other])) continue;
                const double at = a[axis] +
                                  (b[axis] - a[axis]) * (place[other] - a[other]) / (b[other] - a[other]) -
                                  place[axis];
                (at < 0 ? low : high) = at < 0 ? std::max(low, at) : std::min(high, at);
            }
        });
        width = std::min(width, high - low);
    }
    return width;
}

/// The same of cells: the shorter of both rows of free ones.
double width_at(const Plan& plan, int pixel) {
    int least = std::numeric_limits<int>::max();
    for (size_t axis = 0; axis < 2; ++axis) {
        int count = 1;
        for (const size_t side : {axis, axis + 2})
            for (int at = plan.beside(pixel, k_beside[side]); at >= 0; at = plan.beside(at, k_beside[side]))
                ++count;
        least = std::min(least, count);
    }
    return least * plan.pixel_m;
}

/// A place of a pixel where one can be: the middle of what it shares with some ground.
std::optional<Vec2> place_in(const Plan& plan, int pixel, const Ground& ground, int ledge) {
    const Vec2 middle = plan.place(pixel), half(plan.pixel_m / 2);
    const Vec2 low = middle - half, high = middle + half;
    const geometry::ConvexArea square{low, {high.x, low.y}, high, {low.x, high.y}};
    std::optional<Vec2> out;
    ground.for_near(Box2{low, high}, [&](int f) {
        const Fragment& fragment = ground.fragments[size_t(f)];
        if (out || fragment.ledge != ledge) return;
        const auto both = geometry::common(fragment.area, square);
        if (!both.empty()) out = geometry::middle_of(both);
    });
    return out;
}

void measure_widths(Maze& maze, const Plan& plan, const Graph& graph, const motion::World& world,
                    const Ground& ground, int ledge) {
    std::vector<std::pair<double, Vec2>> widths;
    const size_t step = plan.by_cells ? 1 : 4;
    for (const Corridor& corridor : graph.corridors) {
        if (corridor.gone) continue;
        for (size_t i = 0; i < corridor.pixels.size(); i += step) {
            const int pixel = corridor.pixels[i];
            if (plan.by_cells)
                widths.push_back({width_at(plan, pixel), plan.place(pixel)});
            else if (const auto place = place_in(plan, pixel, ground, ledge))
                widths.push_back({width_at(world, *place), *place});
        }
    }
    if (widths.empty()) return;
    std::sort(widths.begin(), widths.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    maze.narrowest_m = widths.front().first, maze.narrowest_at = widths.front().second;
    maze.usual_m = widths[widths.size() / 2].first;
}

/// Corridors that were taken off, put together where they hang together; what is shorter than `least_m` is a
/// niche.
void add_dead_ends(Maze& maze, const Graph& graph, const std::vector<int>& taken, double least_m) {
    std::map<int, std::vector<int>> rest; // by node, of what was taken
    for (const int c : taken)
        for (const int node : {graph.corridors[size_t(c)].a, graph.corridors[size_t(c)].b})
            rest[node].push_back(c);
    std::vector<char> done(graph.corridors.size(), 0);
    // The last taken is where the whole hangs.
    for (auto last = taken.rbegin(); last != taken.rend(); ++last) {
        if (done[size_t(*last)]) continue;
        Maze::DeadEnd dead_end;
        std::vector<int> open{*last};
        done[size_t(*last)] = 1;
        while (!open.empty()) {
            const int c = open.back();
            open.pop_back();
            dead_end.branches.push_back(graph.way_from(graph.corridors[size_t(c)].a, {c}));
            dead_end.length_m += graph.corridors[size_t(c)].length_m;
            for (const int node : {graph.corridors[size_t(c)].a, graph.corridors[size_t(c)].b}) {
                if (graph.degree(node) > 0) continue; // there it hangs on what is no dead end
                for (const int next : rest[node])
                    if (!done[size_t(next)]) done[size_t(next)] = 1, open.push_back(next);
            }
        }
        if (dead_end.length_m < least_m) continue;
        maze.twice_m += dead_end.length_m;
        maze.dead_ends.push_back(std::move(dead_end));
    }
    std::sort(maze.dead_ends.begin(), maze.dead_ends.end(),
              [](const auto& a, const auto& b) { return a.length_m > b.length_m; });
}

void add_shortcuts(Maze& maze, const Graph& graph, const std::vector<int>& shortest) {
    constexpr double k_least_m = 2, k_least_part = 0.05;
    double saved_before = 0;
    int node = graph.start();
    for (const int c : shortest) {
        const int from = node;
        node = graph.across(c, node);
        const auto otherwise = graph.shortest(c);
        const double saves = otherwise ? graph.length_of(*otherwise) - maze.shortest.length_m : 0;
        const bool counts = saves >= std::max(k_least_m, k_least_part * maze.shortest.length_m);
        const Maze::Way way = graph.way_from(from, {c});
        if (counts && saves == saved_before) { // round all of it the same way leads
            Maze::Way& longer = maze.shortcuts.back().way;
            longer.places.insert(longer.places.end(), way.places.begin(), way.places.end());
            longer.length_m += way.length_m;
        } else if (counts) {
            maze.shortcuts.push_back({way, saves});
        }
        saved_before = counts ? saves : 0;
    }
    std::stable_sort(maze.shortcuts.begin(), maze.shortcuts.end(),
                     [](const auto& a, const auto& b) { return a.saves_m > b.saves_m; });
    if (maze.shortcuts.size() > k_most_shortcuts) maze.shortcuts.resize(k_most_shortcuts);
}

/// Squares of four pixels that could not be thinned lead round nothing.
int full_squares(const Raster& lines) {
    int count = 0;
    for (int row = 0; row + 1 < lines.rows; ++row)
        for (int column = 0; column + 1 < lines.columns; ++column)
            count += lines.at(column, row) && lines.at(column + 1, row) && lines.at(column, row + 1) &&
                     lines.at(column + 1, row + 1);
    return count;
}

} // namespace

std::shared_ptr<const Maze> maze_of(const Level& level, const motion::World& world, const Ground& ground,
                                    const Character& character, const Vec3& start, const Vec3& goal,
                                    const Cancel& cancel) {
    if (level.frame != Frame::plan) return {};
    const int ledge = ground.ledge_at(start, character.step_height_m);
    auto plan = plan_of(ground, ledge, flat(box_of(level)), character.radius_m);
    if (!plan || cancel.requested()) return {};
    const int from = pixel_near(*plan, flat(start)), to = pixel_near(*plan, flat(goal));
    if (from < 0 || to < 0 || from == to) return {};
    // Only what one gets to counts.
    const std::vector<int> came = spread(*plan, {from}, [](int) { return false; });
    if (came[size_t(to)] < 0) return {};
    for (size_t i = 0; i < came.size(); ++i) plan->free.set[i] = came[i] >= 0;
    Raster lines = geometry::thinned(plan->free);
    // Start and goal are joined to the nearest line.
    for (const int end : {from, to}) {
        int met = -1;
        const std::vector<int> way = spread(*plan, {end}, [&](int pixel) {
            if (lines.set[size_t(pixel)]) met = pixel;
            return met >= 0;
        });
        for (int pixel = met; pixel >= 0; pixel = way[size_t(pixel)] == pixel ? -1 : way[size_t(pixel)])
            lines.set[size_t(pixel)] = 1;
    }
    if (cancel.requested()) return {};
    Graph graph(*plan, lines, from, to);
    // Lines into the corners of rooms are no corridors.
    const std::vector<int> depths = depths_of(*plan);
    graph.peeled([&](const Corridor& corridor, int hangs_at) {
        return int(corridor.pixels.size()) - 1 <= 2 * (depths[size_t(graph.pixel(hangs_at))] - 1);
    });
    Maze maze;
    int corridors = 0, nodes = 0;
    for (const Corridor& corridor : graph.corridors) {
        if (corridor.gone) continue;
        maze.corridors_m += corridor.length_m;
        ++corridors;
    }
    std::vector<char> seen(lines.set.size(), 0);
    for (const Corridor& corridor : graph.corridors)
        for (const int node : {corridor.a, corridor.b})
            if (!corridor.gone && !std::exchange(seen[size_t(graph.pixel(node))], 1)) ++nodes;
    maze.loops = std::max(0, corridors - nodes + 1 - full_squares(lines));
    measure_widths(maze, *plan, graph, world, ground, ledge);
    const std::vector<int> taken = graph.peeled([](const Corridor&, int) { return true; });
    add_dead_ends(maze, graph, taken, plan->by_cells ? 0 : maze.usual_m);
    const auto shortest = graph.shortest();
    if (!shortest || cancel.requested()) return {};
    maze.shortest = graph.way_from(graph.start(), *shortest);
    add_shortcuts(maze, graph, *shortest);
    const auto [longest, all_tried] = graph.longest();
    maze.longest = graph.way_from(graph.start(), longest);
    maze.longest_is_longest = all_tried;
    return std::make_shared<const Maze>(std::move(maze));
}

} // namespace rubble::check
