#include "cast/layout.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "base/random.h"

namespace rubble::cast {

namespace {

/// Beginnings that are tried, and steps of each by the number of pieces.
constexpr int k_beginnings = 24, k_steps_each = 40, k_steps_more = 400;
/// How much likelier what is aimed at becomes, and how much less likely what is not.
constexpr uint64_t k_aim = 12;
/// Weights in whole numbers: so much is a weight of 1.
constexpr double k_weight = 1 << 20;

/// The cells of an area, by whole numbers.
class Cells {
public:
    explicit Cells(const Area& area) : low_(area.low) {
        size_[1] = int(area.rows.size()), size_[2] = std::max(area.storeys, 0);
        for (const std::string& row : area.rows) size_[0] = std::max(size_[0], int(row.size()));
        const int64_t count = int64_t(size_[0]) * size_[1] * size_[2];
        if (count > most_cells) size_ = {0, 0, 0};
        inside_.assign(size_t(size_[0]) * size_t(size_[1]) * size_t(size_[2]), false);
        for (size_t i = 0; i < inside_.size(); ++i) {
            const ModuleCell cell = at(int(i));
            const std::string& row = area.rows[size_t(size_[1] - 1 - (cell[1] - low_[1]))];
            const size_t x = size_t(cell[0] - low_[0]);
            inside_[i] = x < row.size() && row[x] == '#';
        }
    }
    int count() const { return int(inside_.size()); }
    /// -1 for what is not of the area.
    int index(const ModuleCell& cell) const {
        std::array<int, 3> in{};
        for (size_t axis = 0; axis < 3; ++axis) {
            in[axis] = cell[axis] - low_[axis];
            if (in[axis] < 0 || in[axis] >= size_[axis]) return -1;
        }
        const int i = (in[2] * size_[1] + in[1]) * size_[0] + in[0];
        return inside_[size_t(i)] ? i : -1;
    }
    ModuleCell at(int i) const {
        return {low_[0] + i % size_[0], low_[1] + i / size_[0] % size_[1], low_[2] + i / size_[0] / size_[1]};
    }
    bool has(int i) const { return inside_[size_t(i)]; }

private:
    ModuleCell low_;
    std::array<int, 3> size_{0, 0, 0};
    std::vector<bool> inside_;
};

ModuleCell plus(const ModuleCell& a, const ModuleCell& b) { return {a[0] + b[0], a[1] + b[1], a[2] + b[2]}; }
ModuleCell minus(const ModuleCell& a, const ModuleCell& b) { return {a[0] - b[0], a[1] - b[1], a[2] - b[2]}; }

/// What laying a part would do.
struct Effect {
    int matched = 0;   ///< passages of others that it meets
    int waiting = 0;   ///< change of the number of cells that passages look into
    int met_again = 0; ///< passages of its own into cells that others look into too
    int open_ends = 0; ///< passages of its own that would look out of the area
};

class Laying {
public:
    Laying(const Rules& rules, const Parts& parts, const Cells& cells, uint64_t seed)
        : rules_(rules),
          parts_(parts),
          cells_(cells),
          random_(seed),
          owner_(size_t(cells.count()), -1),
          looked_into_(size_t(cells.count()), 0),
          used_(rules.candidates.size(), 0) {
        find_joints();
        for (const Candidate& candidate : rules.candidates) {
            has_start_ |= candidate.use == Use::start;
            has_goal_ |= candidate.use == Use::goal;
            lacking_ += candidate.at_least;
            weights_.push_back(uint64_t(std::clamp(candidate.weight, 0.0, 1e6) * k_weight));
        }
        lacking_ += has_goal_;
        find_apart();
    }

    bool run(const Cancel& cancel) {
        int steps = rules_.count * k_steps_each + k_steps_more;
        if (!begin()) return false;
        while (int(frames_.size()) < rules_.count) {
            if (--steps < 0 || cancel.requested()) return false;
            if (!go_on() && !go_back()) return false;
        }
        return true;
    }

    Layout layout() const {
        Layout out;
        std::vector<int> ways_of(frames_.size());
        for (const Frame& frame : frames_) out.laid.push_back(frame.laid);
        for (size_t i = 0; i < out.laid.size(); ++i)
            for (const PartJoint& joint : parts_.parts[out.laid[i].part].joints) {
                if (!joint.passage) continue;
                const int there = cells_.index(beside(plus(out.laid[i].at, joint.cell), joint.side));
                const int other = there < 0 ? -1 : owner_[size_t(there)];
                if (other < 0)
                    ++out.open_joints;
                else if (size_t(other) > i)
                    out.ways.push_back({i, size_t(other)}), ++ways_of[i], ++ways_of[size_t(other)];
            }
        out.loops = int(out.ways.size()) - int(out.laid.size()) + 1;
        find_goal(out);
        for (size_t i = 1; i < out.laid.size(); ++i) out.dead_ends += i != out.goal && ways_of[i] == 1;
        return out;
    }

private:
    struct Choice {
        Laid laid;
        uint64_t weight = 0;
    };
    struct Frame {
        Laid laid;
        std::vector<Choice> others; ///< that were not tried in its place
    };
    const Candidate& candidate_of(const Part& part) const { return rules_.candidates[part.candidate]; }

    void find_joints() {
        for (const Part& part : parts_.parts) {
            joints_.emplace_back();
            for (const PartJoint& joint : part.joints) joints_.back()[{joint.cell, joint.side}] = &joint;
        }
    }
    const PartJoint* joint_at(const Laid& laid, const ModuleCell& cell, ModuleSide side) const {
        const auto& own = joints_[laid.part];
        const auto found = own.find({minus(cell, laid.at), side});
        return found == own.end() ? nullptr : found->second;
    }

    void find_apart() {
        const size_t n = rules_.candidates.size();
        apart_.assign(n, std::vector<bool>(n));
        for (const auto& [a, b] : rules_.apart)
            for (size_t i = 0; i < n; ++i)
                for (size_t k = 0; k < n; ++k)
                    if (rules_.candidates[i].name() == a && rules_.candidates[k].name() == b)
                        apart_[i][k] = apart_[k][i] = true;
    }

    /// Whether the two sides of where two parts touch go together.
    bool match(const PartJoint* a, const PartJoint* b) const {
        const bool passage = (a && a->passage) || (b && b->passage);
        return !passage || (a && b && parts_.fit[size_t(a->kind)][size_t(b->kind)]);
    }

    /// What would come of laying a part; nothing where it does not fit among those that lie there.
    std::optional<Effect> effect_of(const Laid& laid) const {
        const Part& part = parts_.parts[laid.part];
        Effect effect;
        fresh_.clear();
        for (const ModuleCell& own : part.cells) {
            const int here = cells_.index(plus(laid.at, own));
            if (here < 0 || owner_[size_t(here)] >= 0) return {};
            effect.waiting -= looked_into_[size_t(here)] > 0;
        }
        for (const ModuleCell& own : part.cells)
            for (int s = 0; s < 6; ++s)
                if (!side_fits(laid, own, ModuleSide(s), effect)) return {};
        return effect;
    }

    bool side_fits(const Laid& laid, const ModuleCell& own, ModuleSide side, Effect& effect) const {
        const Part& part = parts_.parts[laid.part];
        const ModuleCell cell = plus(laid.at, own), other = beside(cell, side);
        if (std::binary_search(part.cells.begin(), part.cells.end(), minus(other, laid.at))) return true;
        const PartJoint* joint = joint_at(laid, cell, side);
        const int there = cells_.index(other);
        if (there < 0) {
            if (joint && joint->passage) ++effect.open_ends;
            return !joint || !joint->passage || rules_.open_joints;
        }
        const int owner = owner_[size_t(there)];
        if (owner < 0) {
            if (!joint || !joint->passage) return true;
            const bool again = looked_into_[size_t(there)] > 0 ||
                               std::find(fresh_.begin(), fresh_.end(), there) != fresh_.end();
            if (!again) fresh_.push_back(there);
            ++(again ? effect.met_again : effect.waiting);
            return true;
        }
        const Laid& neighbour = frames_[size_t(owner)].laid;
        const PartJoint* its = joint_at(neighbour, other, opposite(side));
        if (!match(joint, its)) return false;
        if (apart_[part.candidate][parts_.parts[neighbour.part].candidate]) return false;
        effect.matched += joint && joint->passage;
        return true;
    }

    /// Whether rules let a candidate be used once more, as the piece of that number.
    bool is_allowed(const Part& part, int number) const {
        const Candidate& candidate = candidate_of(part);
        if (used_[part.candidate] >= candidate.at_most || weights_[part.candidate] == 0) return false;
        if (number == 0) return has_start_ ? candidate.use == Use::start : candidate.use == Use::any;
        if (candidate.use == Use::start) return false;
        if (candidate.use != Use::goal) return true;
        return !goal_laid_ && (rules_.form == Form::network || number == rules_.count - 1);
    }

    /// Whether laying it leaves as many parts as are still needed, and one to go on from.
    bool leaves_enough(const Part& part, const Effect& effect) const {
        const Candidate& candidate = candidate_of(part);
        const int left = rules_.count - int(frames_.size()) - 1;
        const int waiting = int(waiting_.size()) + effect.waiting;
        const int lacking = lacking_ - (used_[part.candidate] < candidate.at_least) -
                            (candidate.use == Use::goal && !goal_laid_);
        if (lacking > left || (left > 0 && waiting <= 0)) return false;
        if (rules_.form == Form::chain && waiting > 1) return false;
        return rules_.open_joints || waiting <= left;
    }

    /// A candidate's weight, changed by what is aimed at.
    uint64_t weight_of(const Part& part, const Effect& effect) const {
        const double laid = double(frames_.size() + 1);
        uint64_t weight = weights_[part.candidate];
        if (effect.matched > 1 || effect.met_again > 0) {
            const bool wanted = loops_ < rules_.loops * laid;
            weight = wanted ? weight * k_aim : weight / k_aim;
        }
        // What waits becomes a dead end in time, or a loop.
        const bool ends = part.passages == 1;
        const double coming = ends_ + int(ends) + int(waiting_.size()) + effect.waiting;
        const double loops_to_come = std::max(0.0, rules_.loops * rules_.count - loops_);
        const double aimed = 1 + rules_.dead_ends * rules_.count + 2 * loops_to_come;
        if (coming > aimed && effect.waiting > 0) weight /= k_aim;
        if (coming < aimed && effect.waiting > 0) weight *= 2;
        return std::max<uint64_t>(weight, 1);
    }

    std::vector<Choice> choices_for(const ModuleCell& cell) const {
        std::vector<Choice> out;
        for (size_t i = 0; i < parts_.parts.size(); ++i) {
            const Part& part = parts_.parts[i];
            if (!is_allowed(part, int(frames_.size()))) continue;
            for (const ModuleCell& own : part.cells) {
                const Laid laid{i, minus(cell, own)};
                const auto effect = effect_of(laid);
                if (effect && leaves_enough(part, *effect)) out.push_back({laid, weight_of(part, *effect)});
            }
        }
        return out;
    }

    /// Whether anything at all could be laid there.
    bool can_be_filled(const ModuleCell& cell) const {
        for (size_t i = 0; i < parts_.parts.size(); ++i) {
            const Part& part = parts_.parts[i];
            if (candidate_of(part).use == Use::start || used_[part.candidate] >= candidate_of(part).at_most)
                continue;
            for (const ModuleCell& own : part.cells)
                if (effect_of({i, minus(cell, own)})) return true;
        }
        return false;
    }

    /// Calls `visit` with the free cells that passages of a laid part look into.
    template <class F> void for_each_looked_into(const Laid& laid, const F& visit) const {
        for (const PartJoint& joint : parts_.parts[laid.part].joints) {
            if (!joint.passage) continue;
            const int there = cells_.index(beside(plus(laid.at, joint.cell), joint.side));
            if (there >= 0 && owner_[size_t(there)] < 0) visit(there);
        }
    }

    void lay(const Laid& laid, std::vector<Choice> others) {
        const Part& part = parts_.parts[laid.part];
        const auto effect = effect_of(laid);
        const int number = int(frames_.size());
        if (number > 0) loops_ += effect->matched - 1;
        ends_ += part.passages == 1;
        for (const ModuleCell& own : part.cells) {
            const int here = cells_.index(plus(laid.at, own));
            owner_[size_t(here)] = number;
            if (looked_into_[size_t(here)] > 0)
                waiting_.erase(std::find(waiting_.begin(), waiting_.end(), here));
        }
        for_each_looked_into(laid, [&](int there) {
            if (looked_into_[size_t(there)]++ == 0) waiting_.push_back(there);
        });
        lacking_ -= used_[part.candidate] < candidate_of(part).at_least;
        ++used_[part.candidate];
        if (candidate_of(part).use == Use::goal) goal_laid_ = true, --lacking_;
        frames_.push_back({laid, std::move(others)});
    }

    std::vector<Choice> take_back() {
        const Laid laid = frames_.back().laid;
        std::vector<Choice> others = std::move(frames_.back().others);
        frames_.pop_back();
        const Part& part = parts_.parts[laid.part];
        --used_[part.candidate];
        lacking_ += used_[part.candidate] < candidate_of(part).at_least;
        if (candidate_of(part).use == Use::goal) goal_laid_ = false, ++lacking_;
        for_each_looked_into(laid, [&](int there) {
            if (--looked_into_[size_t(there)] == 0)
                waiting_.erase(std::find(waiting_.begin(), waiting_.end(), there));
        });
        for (const ModuleCell& own : part.cells) {
            const int here = cells_.index(plus(laid.at, own));
            owner_[size_t(here)] = -1;
            if (looked_into_[size_t(here)] > 0) waiting_.push_back(here);
        }
        ends_ -= part.passages == 1;
        if (!frames_.empty()) loops_ -= effect_of(laid)->matched - 1;
        return others;
    }

    /// Lays one of some choices, drawn by weight, that leaves no passage which nothing could close.
    bool lay_one_of(std::vector<Choice> choices) {
        std::vector<uint64_t> weights;
        while (!choices.empty()) {
            weights.clear();
            for (const Choice& choice : choices) weights.push_back(choice.weight);
            const size_t drawn = random_.weighted(weights);
            const Laid laid = choices[drawn].laid;
            choices.erase(choices.begin() + long(drawn));
            lay(laid, {});
            bool good = true;
            if (!rules_.open_joints)
                for (const int cell : waiting_beside(laid)) good = good && can_be_filled(cells_.at(cell));
            if (good) {
                frames_.back().others = std::move(choices);
                return true;
            }
            take_back();
        }
        return false;
    }

    /// Cells that passages look into, beside a part.
    std::vector<int> waiting_beside(const Laid& laid) const {
        std::vector<int> out;
        for (const ModuleCell& own : parts_.parts[laid.part].cells)
            for (int s = 0; s < 6; ++s) {
                const int there = cells_.index(beside(plus(laid.at, own), ModuleSide(s)));
                if (there >= 0 && owner_[size_t(there)] < 0 && looked_into_[size_t(there)] > 0)
                    out.push_back(there);
            }
        return out;
    }

    /// The first, where the rules say or in a cell drawn until something can be laid in it.
    bool begin() {
        if (rules_.start) return lay_one_of(choices_for(*rules_.start));
        std::vector<int> cells;
        for (int i = 0; i < cells_.count(); ++i)
            if (cells_.has(i)) cells.push_back(i);
        for (size_t left = cells.size(); left > 0; --left) {
            std::swap(cells[random_.below(left)], cells[left - 1]);
            if (lay_one_of(choices_for(cells_.at(cells[left - 1])))) return true;
        }
        return false;
    }

    /// One more, into a cell that a passage looks into: rather where two do while loops are wanted.
    bool go_on() {
        std::vector<int> met_twice;
        for (const int cell : waiting_)
            if (looked_into_[size_t(cell)] > 1) met_twice.push_back(cell);
        const bool want_loop = loops_ < rules_.loops * double(frames_.size());
        const std::vector<int>& from = want_loop && !met_twice.empty() ? met_twice : waiting_;
        if (from.empty()) return false;
        return lay_one_of(choices_for(cells_.at(from[random_.below(from.size())])));
    }

    /// Takes back until another choice is left.
    bool go_back() {
        while (!frames_.empty())
            if (lay_one_of(take_back())) return true;
        return false;
    }

    /// Breadth first from the first.
    void find_goal(Layout& out) const {
        std::vector<std::vector<size_t>> next(out.laid.size());
        for (const auto& [a, b] : out.ways) next[a].push_back(b), next[b].push_back(a);
        std::vector<int> away(out.laid.size(), -1);
        std::vector<size_t> queue{0};
        away[0] = 0;
        for (size_t i = 0; i < queue.size(); ++i)
            for (const size_t there : next[queue[i]])
                if (away[there] < 0) away[there] = away[queue[i]] + 1, queue.push_back(there);
        for (size_t i = 0; i < out.laid.size(); ++i) {
            const bool meant = candidate_of(parts_.parts[out.laid[i].part]).use == Use::goal;
            if (has_goal_ ? meant : away[i] > away[out.goal]) out.goal = i;
        }
        out.goal_away = away[out.goal];
    }

    const Rules& rules_;
    const Parts& parts_;
    const Cells& cells_;
    RandomSource random_;
    std::vector<int> owner_;       ///< of each cell, by number; -1: free
    std::vector<int> looked_into_; ///< by how many passages
    std::vector<int> waiting_;     ///< free cells that are looked into
    std::vector<int> used_;        ///< of each candidate
    std::vector<uint64_t> weights_;
    std::vector<std::map<std::pair<ModuleCell, ModuleSide>, const PartJoint*>> joints_; ///< of each part
    std::vector<std::vector<bool>> apart_;
    std::vector<Frame> frames_;
    mutable std::vector<int> fresh_;
    bool has_start_ = false, has_goal_ = false, goal_laid_ = false;
    int lacking_ = 0; ///< parts that the rules ask for and that were not laid yet
    int loops_ = 0, ends_ = 0;
};

} // namespace

std::optional<Layout> laid_out(const Rules& rules, const Parts& parts, uint64_t seed, const Cancel& cancel) {
    if (rules.count < 1 || rules.count > most_pieces) return {};
    const Cells cells(rules.area);
    RandomSource seeds(seed);
    for (int i = 0; i < k_beginnings && !cancel.requested(); ++i) {
        Laying laying(rules, parts, cells, seeds.next());
        if (!laying.run(cancel)) continue;
        Layout layout = laying.layout();
        if (layout.goal_away >= rules.goal_away) return layout;
    }
    return {};
}

} // namespace rubble::cast
