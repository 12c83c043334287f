#pragma once

#include <algorithm>
#include <deque>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <tuple>
#include <vector>

namespace rubble::test {

/// A puzzle by cells as plainly as it can be said, and everything about it found by trying each letter in
/// each state. Shares nothing with the program but the rules as they are documented.
struct PlainPuzzle {
    struct Key {
        int cell, kind;
        bool kept;
    };
    struct Door {
        int cell, key; ///< kind of key, or -1
        bool open;
        std::vector<int> switches;
        int pearls = 0; ///< opens at so many; 0: no gate
    };
    struct Switch {
        int cell;
        char mode; ///< o once, t toggle, h held
        bool foot, crate;
        bool use = false; ///< by who stands on it and plays u
    };
    struct Foe {
        std::vector<int> way;
        int sight = 0;     ///< comes nearer to a figure that it sees, so far; 0: it does not
        char follows = 0;  ///< l, r: with the wall on that side; 0: it does not
        int direction = 0; ///< east, north, west, south
    };
    struct Dispenser {
        int cell, count;
        std::vector<int> switches; ///< that call for one; none: whenever there is room
    };

    int columns = 0, rows = 0;
    std::string floor; ///< by cells: # wall, . floor, ~ deadly, * slippery, > ^ < v carrying, o crumbling
    int start = 0, goal = 0;
    std::vector<int> crates;
    std::vector<Key> keys;
    std::vector<Door> doors;
    std::vector<Switch> switches;
    std::vector<int> pearls;
    std::vector<int> boots; ///< items that make immune against deadly floor
    std::vector<Foe> foes;
    std::vector<Dispenser> dispensers; ///< their crates come after the others
    bool two_crates = false, crates_slide = false, keys_kept = false;
};

class PlainPlay {
public:
    explicit PlainPlay(const PlainPuzzle& puzzle) : p_(puzzle) {}

    struct State {
        int figure = 0;
        std::vector<int> crates; ///< -1 - cell: fills that cell
        std::set<int> keys, pearls, boots, opened, paid, on, crumbled;
        std::vector<int> foes;
        auto operator<=>(const State&) const = default;
    };

    State begin() const {
        State s;
        s.figure = p_.start, s.crates = p_.crates;
        for (const auto& foe : p_.foes)
            s.foes.push_back(foe.sight > 0 ? foe.way[0]
                             : foe.follows ? foe.way[0] * 8 + foe.direction * 2
                                           : 0);
        for (const auto& one : p_.dispensers) s.crates.insert(s.crates.end(), size_t(one.count), k_stored);
        dispense(s, s);
        take(s);
        for (int i = 0; i < int(p_.switches.size()); ++i) {
            const auto& one = p_.switches[size_t(i)];
            if (one.mode == 'o' &&
                ((one.foot && s.figure == one.cell) || (one.crate && crate_at(s, one.cell) >= 0)))
                s.on.insert(i);
        }
        return s;
    }
    bool solved(const State& s) const { return s.figure == p_.goal; }

    struct Step {
        State after;
        int pushed = -1;
    };
    /// Nothing where the letter is no step.
    std::optional<Step> step(const State& before, char letter) const {
        Step out{before, -1};
        State& s = out.after;
        if (letter == 'u') {
            const auto used = std::find_if(p_.switches.begin(), p_.switches.end(),
                                           [&](const auto& one) { return one.cell == s.figure && one.use; });
            if (used == p_.switches.end()) return {};
            change(s, int(used - p_.switches.begin()));
        } else if (letter != '.') {
            const int next = beside(s.figure, letter);
            if (next < 0 || wall(next)) return {};
            if (const int door = door_at(next); door >= 0 && !open(s, door)) {
                if (!has_key(s, door)) return {};
                s.opened.insert(door);
                if (!kept(s, p_.doors[size_t(door)].key)) s.paid.insert(door);
            }
            if (const int crate = crate_at(s, next); crate >= 0) {
                if (!push(s, crate, letter)) return {};
                out.pushed = crate;
            }
            if (!go(s, next)) return {};
            if (!slide(s, letter)) return {};
        }
        dispense(before, s);
        if (!belts(s)) return {};
        for (size_t i = 0; i < s.foes.size(); ++i) {
            const int was = foe_cell(s, i), to = next_of_foe(s, i);
            State then = s;
            then.foes[i] = to;
            if (lets_foes(s, foe_cell(then, i))) s.foes[i] = to;
            const int now = foe_cell(s, i);
            if (now == s.figure || (now == before.figure && was == s.figure)) return {};
        }
        return out;
    }

private:
    static constexpr int k_stored = 1 << 20;

    int foe_cell(const State& s, size_t i) const {
        const auto& foe = p_.foes[i];
        return foe.sight > 0 ? s.foes[i] : foe.follows ? s.foes[i] / 8 : foe.way[size_t(s.foes[i])];
    }
    bool lets_foes(const State& s, int cell) const {
        const int door = door_at(cell);
        return crate_at(s, cell) < 0 && (door < 0 || open(s, door));
    }
    int next_of_foe(const State& s, size_t i) const {
        const auto& foe = p_.foes[i];
        const std::string ways = "enws";
        if (foe.follows) {
            const int cell = s.foes[i] / 8, direction = s.foes[i] / 2 % 4, side = foe.follows == 'l' ? 1 : 3;
            int had_wall = s.foes[i] % 2;
            for (const int turn : {side, 0, (side + 2) % 4, 2}) {
                const int towards = (direction + turn) % 4, to = beside(cell, ways[size_t(towards)]);
                const bool free = to >= 0 && !wall(to) && p_.floor[size_t(to)] != '~';
                if (!free) had_wall = 1;
                if (free && (turn != side || had_wall)) return to * 8 + towards * 2 + had_wall;
            }
            return cell * 8 + direction * 2 + 1;
        }
        if (foe.sight == 0) return (s.foes[i] + 1) % int(foe.way.size());
        for (const char way : ways) {
            int at = s.foes[i];
            for (int far = 0; far < foe.sight; ++far) {
                at = beside(at, way);
                if (at < 0 || wall(at) || !lets_foes(s, at)) break;
                if (at != s.figure) continue;
                const int to = beside(s.foes[i], way);
                return p_.floor[size_t(to)] == '~' ? s.foes[i] : to;
            }
        }
        return s.foes[i];
    }
    void change(State& s, int index) const {
        const char mode = p_.switches[size_t(index)].mode;
        if (mode == 'o') s.on.insert(index);
        if (mode == 't' && !s.on.erase(index)) s.on.insert(index);
    }
    void dispense(const State& before, State& s) const {
        size_t crate = p_.crates.size();
        for (const auto& one : p_.dispensers) {
            bool called = one.switches.empty();
            for (const int index : one.switches) called |= is_on(s, index) && !is_on(before, index);
            const bool room = s.figure != one.cell && crate_at(s, one.cell) < 0 && !foe_at(s, one.cell);
            for (size_t k = crate; called && room && k < crate + size_t(one.count); ++k) {
                if (s.crates[k] != k_stored) continue;
                s.crates[k] = one.cell;
                press(s, one.cell, true);
                break;
            }
            crate += size_t(one.count);
        }
    }
    bool wall(int cell) const { return p_.floor[size_t(cell)] == '#'; }
    int beside(int cell, char letter) const {
        const int column = cell % p_.columns, row = cell / p_.columns;
        if (letter == 'e' || letter == '>') return column + 1 < p_.columns ? cell + 1 : -1;
        if (letter == 'w' || letter == '<') return column > 0 ? cell - 1 : -1;
        if (letter == 'n' || letter == '^') return row > 0 ? cell - p_.columns : -1;
        return row + 1 < p_.rows ? cell + p_.columns : -1;
    }
    int crate_at(const State& s, int cell) const {
        const auto found = std::find(s.crates.begin(), s.crates.end(), cell);
        return found == s.crates.end() ? -1 : int(found - s.crates.begin());
    }
    bool filled(const State& s, int cell) const {
        return std::find(s.crates.begin(), s.crates.end(), -1 - cell) != s.crates.end();
    }
    int door_at(int cell) const {
        for (size_t i = 0; i < p_.doors.size(); ++i)
            if (p_.doors[i].cell == cell) return int(i);
        return -1;
    }
    bool kept(const State& s, int kind) const {
        bool any = false;
        for (const int k : s.keys)
            if (p_.keys[size_t(k)].kind == kind) {
                any = true;
                if (p_.keys[size_t(k)].kept) return true;
            }
        return any && p_.keys_kept;
    }
    bool has_key(const State& s, int door) const {
        const int kind = p_.doors[size_t(door)].key;
        if (kind < 0) return false;
        if (kept(s, kind)) return true;
        int count = 0;
        for (const int k : s.keys) count += p_.keys[size_t(k)].kind == kind;
        for (const int d : s.paid) count -= p_.doors[size_t(d)].key == kind;
        return count > 0;
    }
    bool is_on(const State& s, int index) const {
        const auto& one = p_.switches[size_t(index)];
        if (one.mode != 'h') return s.on.contains(index);
        return (one.foot && s.figure == one.cell) || (one.crate && crate_at(s, one.cell) >= 0);
    }
    bool open(const State& s, int index) const {
        const auto& door = p_.doors[size_t(index)];
        if (s.opened.contains(index)) return true;
        if (door.pearls > 0) return int(s.pearls.size()) >= door.pearls;
        bool swapped = false;
        for (const int one : door.switches) swapped |= is_on(s, one);
        return door.open != swapped;
    }
    bool hole(const State& s, int cell) const {
        return (p_.floor[size_t(cell)] == '~' || s.crumbled.contains(cell)) && !filled(s, cell);
    }
    bool kills(const State& s, int cell) const {
        if (filled(s, cell)) return false;
        if (s.crumbled.contains(cell)) return true;
        return p_.floor[size_t(cell)] == '~' && s.boots.empty();
    }
    bool foe_at(const State& s, int cell) const {
        for (size_t i = 0; i < s.foes.size(); ++i)
            if (foe_cell(s, i) == cell) return true;
        return false;
    }
    void press(State& s, int cell, bool crate) const {
        for (size_t i = 0; i < p_.switches.size(); ++i) {
            const auto& one = p_.switches[i];
            if (one.cell != cell || !(crate ? one.crate : one.foot)) continue;
            change(s, int(i));
        }
    }
    void take(State& s) const {
        for (size_t i = 0; i < p_.keys.size(); ++i)
            if (p_.keys[i].cell == s.figure) s.keys.insert(int(i));
        for (const int cell : p_.pearls)
            if (cell == s.figure) s.pearls.insert(cell);
        for (const int cell : p_.boots)
            if (cell == s.figure) s.boots.insert(cell);
    }
    /// The figure goes into a cell; false where it dies.
    bool go(State& s, int cell) const {
        if (p_.floor[size_t(s.figure)] == 'o' && !filled(s, s.figure)) s.crumbled.insert(s.figure);
        s.figure = cell;
        take(s);
        press(s, cell, false);
        return !kills(s, cell) && !foe_at(s, cell);
    }
    bool holds_crate(const State& s, int cell) const {
        if (cell < 0 || wall(cell) || cell == s.figure || foe_at(s, cell)) return false;
        if (const int door = door_at(cell); door >= 0 && !open(s, door)) return false;
        for (size_t i = 0; i < p_.keys.size(); ++i)
            if (p_.keys[i].cell == cell && !s.keys.contains(int(i))) return false;
        for (const int one : p_.pearls)
            if (one == cell && !s.pearls.contains(one)) return false;
        for (const int one : p_.boots)
            if (one == cell && !s.boots.contains(one)) return false;
        return true;
    }
    void put(State& s, int crate, int cell) const {
        s.crates[size_t(crate)] = cell;
        press(s, cell, true);
        if (hole(s, cell)) s.crates[size_t(crate)] = -1 - cell;
    }
    bool free_for_crate(const State& s, int cell) const {
        return holds_crate(s, cell) && crate_at(s, cell) < 0;
    }
    bool push(State& s, int crate, char way) const {
        const int next = beside(s.crates[size_t(crate)], way);
        if (!holds_crate(s, next)) return false;
        const int other = crate_at(s, next);
        if (other >= 0) {
            if (!p_.two_crates) return false;
            const int beyond = beside(next, way);
            if (!free_for_crate(s, beyond)) return false;
            put(s, other, beyond);
        }
        put(s, crate, next);
        if (p_.crates_slide)
            for (const int one : {other, crate})
                while (one >= 0 && s.crates[size_t(one)] >= 0 &&
                       p_.floor[size_t(s.crates[size_t(one)])] == '*' &&
                       free_for_crate(s, beside(s.crates[size_t(one)], way)))
                    put(s, one, beside(s.crates[size_t(one)], way));
        return true;
    }
    /// Whether the figure is carried or slides into a cell.
    bool drifts_into(const State& s, int cell) const {
        const int door = cell < 0 ? -1 : door_at(cell);
        return cell >= 0 && !wall(cell) && crate_at(s, cell) < 0 && (door < 0 || open(s, door));
    }
    bool slide(State& s, char way) const {
        while (p_.floor[size_t(s.figure)] == '*') {
            const int next = beside(s.figure, way);
            if (!drifts_into(s, next)) return true;
            if (!go(s, next)) return false;
        }
        return true;
    }
    static bool belt(char floor) { return floor == '>' || floor == '<' || floor == '^' || floor == 'v'; }
    bool belts(State& s) const {
        bool figure = belt(p_.floor[size_t(s.figure)]);
        std::set<int> waiting;
        for (size_t i = 0; i < s.crates.size(); ++i)
            if (s.crates[i] >= 0 && s.crates[i] != k_stored && belt(p_.floor[size_t(s.crates[i])]))
                waiting.insert(int(i));
        for (bool again = true; again;) {
            again = false;
            if (figure) {
                const char way = p_.floor[size_t(s.figure)];
                const int next = beside(s.figure, way);
                if (drifts_into(s, next)) {
                    figure = false, again = true;
                    if (!go(s, next) || !slide(s, way)) return false;
                }
            }
            for (const int i : std::set<int>(waiting)) {
                const int next = beside(s.crates[size_t(i)], p_.floor[size_t(s.crates[size_t(i)])]);
                if (!free_for_crate(s, next)) continue;
                put(s, i, next);
                waiting.erase(i), again = true;
            }
        }
        return true;
    }

    const PlainPuzzle& p_;
};

/// What there is to know about a puzzle.
struct PlainAnswer {
    bool whole = false; ///< all states were seen
    bool solvable = false;
    int steps = 0, pushes = 0;
    /// The figure's cell before, the crate or -1, the letter; letters until noticed, or -1.
    std::map<std::tuple<int, int, char>, int> ruins;
};

inline PlainAnswer plainly_solved(const PlainPuzzle& puzzle, size_t most_states) {
    const PlainPlay play(puzzle);
    std::map<PlainPlay::State, int> numbers;
    std::vector<PlainPlay::State> states{play.begin()};
    numbers[states[0]] = 0;
    struct Edge {
        int to, pushed;
        char letter;
    };
    std::vector<std::vector<Edge>> edges;
    for (size_t i = 0; i < states.size(); ++i) {
        edges.emplace_back();
        if (states.size() > most_states) return {};
        if (play.solved(states[i])) continue;
        for (const char letter : {'e', 'n', 'w', 's', '.', 'u'}) {
            const auto step = play.step(states[i], letter);
            if (!step || step->after == states[i]) continue;
            const auto [known, is_new] = numbers.try_emplace(step->after, int(states.size()));
            if (is_new) states.push_back(step->after);
            edges[i].push_back({known->second, step->pushed, letter});
        }
    }
    PlainAnswer out;
    out.whole = true;
    // The fewest letters, then pushes, by rounds.
    std::vector<std::pair<int, int>> best(states.size(), {1 << 30, 0});
    best[0] = {0, 0};
    std::deque<int> open{0};
    while (!open.empty()) {
        const int at = open.front();
        open.pop_front();
        for (const Edge& edge : edges[size_t(at)]) {
            const std::pair longer{best[size_t(at)].first + 1, best[size_t(at)].second + (edge.pushed >= 0)};
            if (longer >= best[size_t(edge.to)]) continue;
            best[size_t(edge.to)] = longer;
            open.push_back(edge.to);
        }
    }
    std::pair<int, int> least{1 << 30, 0};
    std::vector<char> good(states.size()), pushes(states.size());
    for (size_t i = 0; i < states.size(); ++i) {
        if (play.solved(states[i])) good[i] = 1, least = std::min(least, best[i]);
        for (const Edge& edge : edges[i]) pushes[i] |= edge.pushed >= 0;
    }
    out.solvable = least.first < 1 << 30;
    if (out.solvable) out.steps = least.first, out.pushes = least.second;
    const auto spread = [&](std::vector<char>& marks) {
        for (bool again = true; again;) {
            again = false;
            for (size_t i = states.size(); i-- > 0;)
                for (const Edge& edge : edges[i])
                    if (!marks[i] && marks[size_t(edge.to)]) marks[i] = again = true;
        }
    };
    spread(good), spread(pushes);
    // Letters to a state from which no crate can be pushed.
    std::vector<int> noticed(states.size(), 1 << 30);
    for (size_t i = 0; i < states.size(); ++i)
        if (!pushes[i]) noticed[i] = 0;
    for (bool again = true; again;) {
        again = false;
        for (size_t i = states.size(); i-- > 0;)
            for (const Edge& edge : edges[i])
                if (noticed[size_t(edge.to)] + 1 < noticed[i])
                    noticed[i] = noticed[size_t(edge.to)] + 1, again = true;
    }
    for (size_t i = 0; i < states.size(); ++i)
        for (const Edge& edge : edges[i]) {
            if (!good[i] || good[size_t(edge.to)]) continue;
            const int when = noticed[size_t(edge.to)] < 1 << 30 ? noticed[size_t(edge.to)] : -1;
            const auto [known, is_new] =
                out.ruins.try_emplace({states[i].figure, edge.pushed, edge.letter}, when);
            if (when >= 0 && (known->second < 0 || when < known->second)) known->second = when;
        }
    return out;
}

} // namespace rubble::test
