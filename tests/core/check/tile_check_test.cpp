#include <QtTest/QtTest>

#include <queue>
#include <set>

#include "check/check.h"
#include "check/flight.h"
#include "core/random.h"
#include "core/tile_level.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::check;
using test::Random;
using test::tile_level;
using test::with_claim;
using test::with_element;

namespace {

ClaimState claim_state(const Level& level) {
    CheckOptions options;
    options.explain = false;
    return check_level({}, level, options).claims.at(0).state;
}

Level with_change(Level level, const std::string& key, double value) {
    level.characters[level.character][key] = value;
    return level;
}

/// Two ledges of tiles with ten cells of air between them; the landing some cells higher. The cell's size
/// makes the gap as wide as is wanted.
Level gap_level(double gap_m, double rise_m) {
    const double cell = gap_m / 10;
    const int rise = int(std::round(std::abs(rise_m) / cell)), run = int(std::ceil(6 / cell));
    std::vector<std::string> rows;
    for (int row = 0; row < rise; ++row)
        rows.push_back(rise_m > 0 ? std::string(size_t(run + 10), ' ') + std::string(size_t(run), '#')
                                  : std::string(size_t(run), '#'));
    for (int i = 0; i < 2; ++i)
        rows.push_back(std::string(size_t(run), '#') + std::string(10, ' ') + std::string(size_t(run), '#'));
    Level level = tile_level(rows, cell);
    const double high = cell * (rise + 2), low = cell * 2, span = run * cell;
    level = with_element(level, "start", "start", {1, 0, rise_m > 0 ? low : high});
    level = with_element(level, "goal", "goal", {span + gap_m + 2, 0, rise_m > 0 ? high : low});
    return with_claim(with_change(level, "survived_fall_m", 100), "c", Claim::Kind::reaches, "start", "goal");
}

/// Blocks, decks, slopes and spikes strewn over a ground, with places on them.
Level random_side_level(Random& random, int columns, int rows) {
    std::vector<std::string> drawing(size_t(rows), std::string(size_t(columns), ' '));
    drawing.back() = std::string(size_t(columns), '#');
    for (int i = random.whole(10, 40); i-- > 0;) {
        const int left = random.whole(2, columns - 9), top = random.whole(4, rows - 2),
                  wide = random.whole(1, 7), high = random.whole(1, 3);
        const char letter = "###-^_"[random.whole(0, 5)];
        for (int row = top; row < std::min(top + (letter == '#' ? high : 1), rows); ++row)
            for (int column = left; column < left + wide; ++column)
                drawing[size_t(row)][size_t(column)] = letter;
        if (letter == '#' && random.chance(0.5)) {
            drawing[size_t(top)][size_t(left) - 1] = '/';
            drawing[size_t(top)][size_t(left + wide)] = '\\';
        }
    }
    for (int column = 0; column < 3; ++column) // the start is free
        for (int row = rows - 6; row < rows - 1; ++row) drawing[size_t(row)][size_t(column)] = ' ';
    Level level = tile_level(drawing);
    level = with_element(level, "start", "start", {0.75, 0, 0.5});
    int places = 0;
    for (int column = 1; column < columns; column += 2)
        for (int row = 1; row < rows - 1; ++row) {
            const char here = drawing[size_t(row)][size_t(column)],
                       over = drawing[size_t(row) - 1][size_t(column)];
            if (here != ' ' && here != '^' && over == ' ' && random.chance(0.3) && places < 25)
                level = with_element(level, "p" + std::to_string(places++), "place",
                                     {(column + 0.5) * 0.5, 0, (rows - row) * 0.5});
        }
    return level;
}

/// A walker that knows nothing of the check goes on from wherever it has stood so far, by random and by
/// systematic inputs: gives how many places the check denies and it has.
int denied_but_had(const Level& level, const CheckResult& result, Random& random, int tries, int& denied) {
    const Character c = result.character;
    std::map<std::pair<int, int>, motion::State> stood; // by half metres
    const auto note = [&](const motion::State& s) {
        if (s.standing && !s.dead)
            stood.emplace(
                std::pair(int(std::floor(s.at.x * 2)), int(std::floor((s.at.y + s.at.z) * 2 + 0.01))), s);
    };
    note(motion::state_at(*result.world, c, result.starts.at(0)));
    std::set<std::string> had;
    for (int i = 0; i < tries && !stood.empty(); ++i) {
        auto from = stood.begin();
        std::advance(from, random.whole(0, int(stood.size()) - 1));
        motion::State s = from->second;
        // A run-up, a jump held for some time, a way in the air; or crouch and jump.
        const double way = random.chance(0.5) ? 1 : -1, pace = random.chance(0.6) ? 1 : random.between(0, 1);
        const double turns = random.chance(0.3) ? -1 : random.between(0, 1);
        const int jump_at = random.whole(0, 60), held = random.whole(1, 60), turn_at = random.whole(0, 100);
        const bool drops = random.chance(0.15);
        for (int k = 0; k < 170 && !s.dead; ++k) {
            motion::Input input;
            input.stick = {way * (k < turn_at ? pace : turns), 0};
            if (level.frame == Frame::plan) input.stick.y = k < turn_at ? turns : pace;
            input.crouch = drops && k < 4;
            input.jump = drops ? k == 3 : k >= jump_at && k < jump_at + held;
            if (drops) input.stick = Vec2(0);
            s = motion::step(*result.world, c, s, input);
            note(s);
            if (s.standing && !s.dead)
                for (const Place& place : result.places)
                    if (has_thing(*result.world, s, c, place.at)) had.insert(place.item.value);
        }
    }
    int wrong = 0;
    for (const Place& place : result.places) {
        denied += place.reached == Reached::no;
        wrong += place.reached == Reached::no && had.contains(place.item.value);
    }
    return wrong;
}

} // namespace

/// What a check says of levels made of tiles, compared with the closed forms, with play, and with a flood
/// fill.
class TileCheckTest : public QObject {
    Q_OBJECT

private slots:
    void gaps_flip_where_the_closed_form_says_data() {
        QTest::addColumn<double>("rise");
        for (const double rise : {0.0, 1.0, -2.0}) QTest::addRow("rise %g", rise) << rise;
    }
    void gaps_flip_where_the_closed_form_says() {
        QFETCH(double, rise);
        const Character c;
        // The cells' size follows the gap, and the rise the cells: the form is asked for the rise that is
        // there.
        for (const bool inside : {true, false}) {
            double gap = 4, real = rise;
            for (int i = 0; i < 50; ++i) {
                real = std::round(rise / (gap / 10)) * (gap / 10);
                const double longest = longest_gap(c, real, 100).value_or(0),
                             off = std::max(0.02, 0.01 * longest);
                const double form = rise < 0 ? std::max(longest, longest_step_off(c, -real, 100)) : longest;
                gap += ((inside ? form - off : form + off) - gap) * 0.3;
            }
            real = std::round(rise / (gap / 10)) * (gap / 10);
            QVERIFY2(claim_state(gap_level(gap, real)) == (inside ? ClaimState::holds : ClaimState::fails),
                     qPrintable(QString("gap %1, rise %2").arg(gap).arg(real)));
        }
    }

    void steps_and_jumps_up_flip_at_their_height() {
        const Character c;
        for (const double part : {0.98, 1.02}) {
            // A wall of three cells that only a jump passes.
            const double cell = c.jump_height_m * part / 3;
            std::vector<std::string> rows(3, std::string(20, ' ') + std::string(20, '#'));
            rows.insert(rows.begin(), 8, "");
            rows.push_back(std::string(40, '#'));
            Level level = with_element(tile_level(rows, cell), "start", "start", {3, 0, cell});
            level = with_element(level, "goal", "goal", {30 * cell, 0, 4 * cell});
            level = with_claim(level, "c", Claim::Kind::reaches, "start", "goal");
            QVERIFY((claim_state(level) == ClaimState::holds) == (part < 1));
        }
    }

    void a_pit_under_a_deck_is_left_by_no_way_but_entered_through_it() {
        std::vector<std::string> rows{"#          #", "#          #", "#          #", "#----------#"};
        for (int i = 0; i < 6; ++i) rows.push_back("#          #");
        rows.push_back("############");
        const double top = 0.5 * 8; // of the deck
        Level level = with_element(tile_level(rows), "start", "start", {2, 0, top});
        level = with_element(level, "goal", "goal", {3, 0, 0.5});
        level = with_claim(level, "down", Claim::Kind::reaches, "start", "goal");
        level = with_claim(level, "up", Claim::Kind::not_reaches, "goal", "start");
        const CheckResult result = check_level({}, level);
        for (const ClaimResult& claim : result.claims)
            QVERIFY2(claim.state == ClaimState::holds, in_english(claim.reason, level).c_str());
        const auto& witness = *result.claims[0].witness;
        const auto end = motion::replayed(*result.world, result.character, witness.recording);
        QVERIFY(has_thing(*result.world, end, result.character, {3, 0, 0.5}));
    }

    void every_witness_replays_and_no_blind_walker_gets_farther() {
        Random random(71);
        int denied = 0, wrong = 0, reached = 0;
        for (int round = 0; round < test::rounds(20); ++round) {
            const Level level = random_side_level(random, 60, 30);
            CheckOptions options;
            options.mends = options.explain = false;
            const CheckResult result = check_level({}, level, options);
            for (const Place& place : result.places) {
                if (place.reached != Reached::yes) continue;
                ++reached;
                QVERIFY(place.witness);
                const auto end = motion::replayed(*result.world, result.character, place.witness->recording);
                QVERIFY(has_thing(*result.world, end, result.character, place.at));
                for (const auto& state :
                     motion::replay(*result.world, result.character, place.witness->recording))
                    QCOMPARE(state.at.y, 0.0);
            }
            wrong += denied_but_had(level, result, random, 1500, denied);
        }
        qInfo("%d places reached, %d denied, %d of them had by a blind walker", reached, denied, wrong);
        QVERIFY(reached > 0);
        QVERIFY(wrong <= std::max(0, denied / 100));
    }

    void walked_freely_no_blind_walker_gets_farther() {
        Random random(74);
        int denied = 0, wrong = 0, reached = 0;
        for (int round = 0; round < test::rounds(20); ++round) {
            const int columns = random.whole(8, 30), rows = random.whole(6, 20);
            std::vector<std::string> drawing;
            for (int row = 0; row < rows; ++row) {
                std::string line;
                for (int column = 0; column < columns; ++column) {
                    const bool rim = row == 0 || column == 0 || row == rows - 1 || column == columns - 1;
                    line += rim || random.chance(0.3) ? "##_//\\"[random.whole(0, 5)]
                            : random.chance(0.03)     ? '^'
                                                      : ' ';
                    if (rim) line.back() = '#';
                }
                drawing.push_back(line);
            }
            drawing[1][1] = ' ';
            const double cell = random.between(0.55, 1.2);
            Level level = tile_level(drawing, cell, Frame::plan);
            level = with_element(level, "start", "start", Vec3(1.5, rows - 1.5, 0) * cell);
            for (int i = 0; i < 25; ++i)
                level =
                    with_element(level, "p" + std::to_string(i), "place",
                                 Vec3(random.between(1, columns - 1), random.between(1, rows - 1), 0) * cell);
            CheckOptions options;
            options.mends = options.explain = false;
            const CheckResult result = check_level({}, level, options);
            if (result.starts.empty()) continue;
            for (const Place& place : result.places) {
                if (place.reached != Reached::yes || !place.witness) continue;
                ++reached;
                const auto end = motion::replayed(*result.world, result.character, place.witness->recording);
                QVERIFY(has_thing(*result.world, end, result.character, place.at));
            }
            wrong += denied_but_had(level, result, random, 600, denied);
        }
        qInfo("%d places reached, %d denied, %d of them had by a blind walker", reached, denied, wrong);
        QVERIFY(reached > 0 && denied > 0);
        QVERIFY(wrong <= denied / 100);
    }

    void by_cells_it_is_exactly_the_flood_fill() {
        Random random(72);
        for (int round = 0; round < test::rounds(60); ++round) {
            const int columns = random.whole(3, 24), rows = random.whole(3, 18);
            std::vector<std::string> drawing;
            for (int row = 0; row < rows; ++row) {
                std::string line;
                for (int column = 0; column < columns; ++column)
                    line += random.chance(0.35) ? '#' : random.chance(0.05) ? '^' : ' ';
                drawing.push_back(line);
            }
            const CellAt first{random.whole(0, columns - 1), random.whole(0, rows - 1)};
            drawing[size_t(first.row)][size_t(first.column)] = ' ';
            Level level = tile_level(drawing, 1, Frame::plan);
            level.walked = Walked::by_cells;
            const auto middle = [&](int column, int row) { return Vec3(column + 0.5, rows - row - 0.5, 0); };
            level = with_element(level, "start", "start", middle(first.column, first.row));
            Layer play = *level.layers.back();
            for (int row = 0; row < rows; ++row)
                for (int column = 0; column < columns; ++column)
                    play.items.push_back(
                        Item{{std::to_string(row) + "," + std::to_string(column)},
                             {},
                             false,
                             Element{"place", middle(column, row) + Vec3(0.3, -0.4, 0), 0, {}},
                             {}});
            level.layers.back() = std::move(play);
            std::set<std::pair<int, int>> filled{{first.row, first.column}};
            std::queue<std::pair<int, int>> open;
            open.push({first.row, first.column});
            while (!open.empty()) {
                const auto [row, column] = open.front();
                open.pop();
                for (const auto& [down, right] : {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}}) {
                    const int r = row + down, k = column + right;
                    if (r < 0 || k < 0 || r >= rows || k >= columns || drawing[size_t(r)][size_t(k)] != ' ')
                        continue;
                    if (filled.insert({r, k}).second) open.push({r, k});
                }
            }
            CheckOptions options;
            options.mends = options.explain = false;
            const CheckResult result = check_level({}, level, options);
            for (const Place& place : result.places) {
                if (place.item.value == "start") continue;
                const QString id = QString::fromStdString(place.item.value);
                const bool in = filled.contains({id.section(',', 0, 0).toInt(), id.section(',', 1).toInt()});
                QVERIFY2((place.reached == Reached::yes) == in, qPrintable(id));
                if (!in) continue;
                const auto end = motion::replayed(*result.world, result.character, place.witness->recording);
                QVERIFY(has_thing(*result.world, end, result.character, place.at));
            }
        }
    }

    void from_above_walls_keep_and_doorways_let_through() {
        // A doorway of one cell, a little wider and a little narrower than the character.
        for (const double cell : {0.62, 0.58}) {
            Level level =
                tile_level({"#######", "#  #  #", "#     #", "#  #  #", "#######"}, cell, Frame::plan);
            level = with_element(level, "start", "start", {1.9 * cell, 2.5 * cell, 0});
            level = with_element(level, "goal", "goal", {5.1 * cell, 2.5 * cell, 0});
            level = with_claim(level, "c", Claim::Kind::reaches, "start", "goal");
            QVERIFY((claim_state(level) == ClaimState::holds) == (cell > 0.6));
        }
    }

    void after_an_edit_it_is_as_if_checked_from_nothing() {
        Random random(73);
        Level level = random_side_level(random, 60, 30);
        build::SolidBuilder builder;
        CheckOptions options;
        options.mends = options.explain = false;
        auto before = std::make_shared<CheckResult>(check_level({}, level, builder, options));
        for (int round = 0; round < test::rounds(20); ++round) {
            const TileGrid::Change change{{random.whole(4, 59), random.whole(5, 28)},
                                          random.chance(0.5) ? Tile() : Tile(random.whole(0, 14))};
            TileLayer tiles = **level.layers[0]->tiles;
            tiles.grid = tiles.grid.with(std::span(&change, 1));
            Layer ground = *level.layers[0];
            ground.tiles = Shared<TileLayer>(std::move(tiles));
            level.layers[0] = std::move(ground);
            options.before = before;
            auto now = std::make_shared<CheckResult>(check_level({}, level, builder, options));
            options.before = nullptr;
            const CheckResult fresh = check_level({}, level, options);
            for (size_t i = 0; i < now->places.size(); ++i)
                QVERIFY(now->places[i].reached == fresh.places[i].reached ||
                        now->places[i].reached == Reached::yes);
            QCOMPARE(now->ground->fragments.size(), fresh.ground->fragments.size());
            before = now;
        }
    }
};

RUBBLE_TEST(TileCheckTest)
#include "tile_check_test.moc"
