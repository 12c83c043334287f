#include <QtTest/QtTest>

#include <numbers>

#include "build/matter_met.h"
#include "build/piece_body.h"
#include "build/solid_builder.h"
#include "check/check.h"
#include "check/flight.h"
#include "check/pace.h"
#include "check/route_light.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "edit/finals.h"
#include "edit/items.h"
#include "edit/kits.h"
#include "edit/props.h"
#include "io/item_file.h"
#include "io/level_file.h"
#include "io/project_file.h"
#include "level/element_values.h"
#include "test_program.h"

using namespace rubble;
using test::LevelMaker;
using test::Random;

namespace {

/// A project with one prop, a box of a size on the middle of its base, met as said.
Project with_prop(const Vec3& size, PieceCollisionKind met = PieceCollisionKind::box) {
    Brush brush;
    brush.size = size;
    Piece piece;
    piece.id = "tub", piece.name = "Tub", piece.seat = PieceSeat::free, piece.size_m = size;
    piece.collision.kind = met;
    piece.items = ItemList(std::vector<ItemPtr>{ItemPtr(Item{{"b"}, {}, false, brush, {}})});
    Kit kit;
    kit.file = "kits/props/kit.json";
    kit.pieces.push_back(std::make_shared<const Piece>(std::move(piece)));
    return edit::with_kit(io::new_project("Test"), build::with_brush_bodies(std::move(kit)));
}

PlacedPiece prop_of(const Project& project, const Vec3& at, double turn_deg = 0) {
    PlacedPiece out;
    out.kit_file = project.kits[0]->file, out.piece_id = "tub", out.piece = project.kits[0]->piece("tub");
    out.place.at = at, out.place.turn_deg = turn_deg;
    return out;
}

ItemId put(Level& level, const PlacedPiece& prop) {
    Item item;
    item.id = edit::fresh_id(level, "p"), item.body = prop;
    level = edit::with_item(level, 0, item);
    return item.id;
}

int found(const check::CheckResult& result, check::RuleId rule) {
    return int(std::count_if(result.findings.begin(), result.findings.end(),
                             [&](const check::Finding& one) { return one.rule == rule; }));
}

} // namespace

/// Props: how they come to stand on a level, what is strewn, and what the check says of them.
class PropsTest : public QObject {
    Q_OBJECT

private slots:
    void what_is_let_go_comes_to_lie_on_the_highest_top_below() {
        Random random(11);
        for (int round = 0; round < test::rounds(60); ++round) {
            LevelMaker maker;
            struct Top {
                Box2 area;
                double z;
            };
            std::vector<Top> tops;
            for (int i = 0; i < 12; ++i) {
                const Vec3 at(random.between(-6, 6), random.between(-6, 6), random.between(-1, 3));
                const Vec3 size(random.between(0.5, 5), random.between(0.5, 5), random.between(0.1, 1));
                maker.box(at, size);
                tops.push_back({Box2{flat(at - size * 0.5), flat(at + size * 0.5)}, at.z + size.z});
            }
            const build::MatterMet met(build::build_solid(maker.level()));
            for (int i = 0; i < 40; ++i) {
                const Vec3 from(random.between(-7, 7), random.between(-7, 7), 10);
                double highest = -1e9;
                for (const Top& top : tops)
                    if (from.x > top.area.low.x && from.x < top.area.high.x && from.y > top.area.low.y &&
                        from.y < top.area.high.y)
                        highest = std::max(highest, top.z);
                const auto place = met.below(from);
                QCOMPARE(place.has_value(), highest > -1e8);
                if (!place) continue;
                QVERIFY(std::abs(place->at.z - highest) < 1e-4);
                QVERIFY(place->normal.z > 0.999);
            }
        }
    }

    void on_a_slope_a_prop_leans_and_keeps_its_heading() {
        LevelMaker maker;
        maker.ramp({0, 0, 0}, {4, 4, 2});
        const build::MatterMet met(build::build_solid(maker.level()));
        const Project project = with_prop({0.5, 0.5, 0.5});
        for (const double heading : {0.0, 37.0, 90.0, -120.0}) {
            const auto place = met.below({0.3, -0.4, 9});
            QVERIFY(place);
            QVERIFY(place->normal.z < 0.95);
            const PlacedPiece stood = edit::stood_on(prop_of(project, {0, 0, 0}, heading), *place, true);
            QVERIFY(glm::length(stood.place.at - place->at) < 1e-12);
            QVERIFY(glm::length(stood.place.direction({0, 0, 1}) - place->normal) < 1e-9);
            const Vec3 ahead = stood.place.direction({1, 0, 0});
            const auto [c, s] = cos_sin(heading);
            const Vec3 was(c, s, 0);
            // In the plane of the ground as near to where it looked as can be.
            const Vec3 nearest = was - place->normal * glm::dot(was, place->normal);
            QVERIFY(glm::length(ahead - glm::normalize(nearest)) < 1e-9);
            // Upright again it has the heading that it shows in plan.
            const PlacedPiece upright = edit::stood_on(stood, *place, false);
            QVERIFY(!upright.place.rotation);
            QVERIFY(std::abs(std::remainder(upright.place.turn_deg - degrees(std::atan2(ahead.y, ahead.x)),
                                            360.0)) < 1e-9);
            QCOMPARE(edit::turned_about_itself(edit::turned_about_itself(upright, 35), -35).place.turn_deg,
                     upright.place.turn_deg);
        }
    }

    void strewn_props_are_as_many_as_wanted_and_as_far_apart() {
        const Project project = with_prop({0.3, 0.3, 0.3});
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 10, 1});
        maker.box({5, 0, 0}, {4, 4, 2}); // nothing is strewn under or into it
        const build::MatterMet met(build::build_solid(maker.level()));
        const std::vector<std::vector<Vec3>> faces{{{-10, -5, 0}, {10, -5, 0}, {10, 5, 0}, {-10, 5, 0}}};
        const auto below = [&](const Vec3& from) { return met.below(from); };
        for (const uint64_t seed : {1, 2, 3, 4, 5}) {
            edit::Strewing how;
            how.kinds = {{project.kits[0]->file, "tub", 1}};
            how.seed = seed, how.per_m2 = 0.5, how.least_apart_m = 0.6;
            how.least_sized = 0.5, how.most_sized = 1.5;
            const auto props = edit::strewn(project, how, faces, below);
            QCOMPARE(props.size(), size_t(100));
            QVERIFY(props == edit::strewn(project, how, faces, below));
            for (size_t i = 0; i < props.size(); ++i) {
                const Vec3& at = props[i].place.at;
                QVERIFY(std::abs(at.z) < 1e-4 && std::abs(at.x) <= 10 && std::abs(at.y) <= 5);
                QVERIFY(!(at.x > 3 && at.x < 7 && std::abs(at.y) < 2));
                QVERIFY(props[i].sized >= 0.5 && props[i].sized <= 1.5);
                for (size_t k = 0; k < i; ++k) QVERIFY(glm::length(flat(at - props[k].place.at)) >= 0.6);
            }
            ++how.seed;
            QVERIFY(props != edit::strewn(project, how, faces, below));
            // Where there is no room for as many, there are as many as fit.
            how.per_m2 = 10, how.least_apart_m = 2;
            const size_t few = edit::strewn(project, how, faces, below).size();
            QVERIFY(few > 20 && few < 90);
        }
        edit::Strewing nothing;
        QVERIFY(edit::strewn(project, nothing, faces, below).empty());
    }

    void a_prop_is_sized_moved_kept_and_met_as_large_as_it_is() {
        const Project project = with_prop({1, 1, 1});
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 20, 1});
        Level level = maker.level();
        PlacedPiece prop = prop_of(project, {2, 0, 0});
        prop.sized = 2;
        const ItemId id = put(level, prop);
        QCOMPARE(box_of(*find_item(level, id)).high, Vec3(3, 1, 2));
        // What is met is as large.
        const build::MatterMet met(build::build_solid(level));
        QVERIFY(std::abs(met.below({2.9, 0.9, 9})->at.z - 2) < 1e-6);
        QVERIFY(std::abs(met.below({3.1, 0.9, 9})->at.z) < 1e-6);
        // Half as large again, about the middle of its base.
        const std::vector<ItemId> ids{id};
        level = edit::scaled(level, ids, {2, 0, 0}, 0.5);
        QCOMPARE(find_item(level, id)->piece()->sized, 1.0);
        level = edit::with_props_sized(level, ids, 3);
        const auto text = io::text_of(level);
        auto read = io::level_from_text(text, "test.level.json");
        QVERIFY(read);
        const Level back = with_files_of(project, *read);
        QCOMPARE(find_item(back, id)->piece()->sized, 3.0);
        QVERIFY(*find_item(back, id) == *find_item(level, id));
        for (const char* wrong : {"0", "0.01", "21", "-1", "\"a\""}) {
            std::string broken = text;
            broken.replace(broken.find("\"sized\":3.0"), 11, std::string("\"sized\":") + wrong);
            QVERIFY(!io::level_from_text(broken, "test.level.json"));
        }
        // Let go it comes down, and comes up out of the ground.
        for (const double z : {4.0, -0.5}) {
            Item item = *find_item(level, id);
            std::get<PlacedPiece>(item.body).place.at.z = z;
            const Level hung = edit::with_changed(level, item);
            const build::MatterMet without(build::build_solid(hung), {id});
            const Level down = edit::with_props_set_down(
                hung, ids, [&](const Vec3& from) { return without.below(from); }, true);
            QVERIFY(std::abs(find_item(down, id)->piece()->place.at.z) < 1e-6);
        }
    }

    void floating_sunk_and_small_ones_are_found() {
        using enum check::RuleId;
        const Project project = with_prop({0.6, 0.6, 0.6});
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 20, 1});
        maker.start({-5, 0, 0});
        const auto says = [&](const Vec3& at, double sized, check::RuleId rule) {
            Level level = maker.level();
            PlacedPiece prop = prop_of(project, at);
            prop.sized = sized;
            put(level, prop);
            return found(check::check_level(project, level), rule);
        };
        QCOMPARE(says({0, 0, 0}, 1, dress_prop_floats) + says({0, 0, 0}, 1, dress_prop_sunk), 0);
        QCOMPARE(says({0, 0, 0.3}, 1, dress_prop_floats), 1);
        QCOMPARE(says({50, 0, 0.3}, 1, dress_prop_floats), 1); // over nothing
        QCOMPARE(says({0, 0, -0.4}, 1, dress_prop_sunk), 1);
        QCOMPARE(says({0, 0, -0.2}, 1, dress_prop_sunk), 0);
        QCOMPARE(says({0, 0, 0}, 0.4, dress_ornament_met), 1);
        QCOMPARE(says({0, 0, 0}, 1, dress_ornament_met), 0);
        // One on another is held by it.
        Level level = maker.level();
        put(level, prop_of(project, {0, 0, 0})), put(level, prop_of(project, {0, 0, 0.6}));
        QCOMPARE(found(check::check_level(project, level), dress_prop_floats), 0);
    }

    void a_prop_that_closes_or_opens_a_way_is_named() {
        using enum check::RuleId;
        const Project project = with_prop({1, 1.4, 1.2});
        // A corridor that is as wide as the prop.
        LevelMaker corridor;
        corridor.box({0, 0, -1}, {20, 8, 1});
        corridor.box({0, 2.4, 0}, {6, 3.2, 4}), corridor.box({0, -2.4, 0}, {6, 3.2, 4});
        const ItemId start = corridor.start({-6, 0, 0}), goal = corridor.goal({6, 0, 0});
        corridor.claim(Claim::Kind::reaches, start, goal);
        Level level = corridor.level();
        QCOMPARE(found(check::check_level(project, level), dress_prop_in_way), 0);
        put(level, prop_of(project, {-4, 3, 0}));
        PlacedPiece high = prop_of(project, {0, 0, 0});
        high.sized = 1.5; // too high to get over
        const ItemId blocks = put(level, high);
        const check::CheckResult closed = check::check_level(project, level);
        QCOMPARE(found(closed, dress_prop_in_way), 1);
        for (const check::Finding& one : closed.findings)
            if (one.rule == dress_prop_in_way) QCOMPARE(one.items, std::vector<ItemId>{blocks});
        // Met as nothing, it is in nobody's way.
        Item item = *find_item(level, blocks);
        std::get<PlacedPiece>(item.body).collision = PieceCollisionKind::none;
        QCOMPARE(found(check::check_level(project, edit::with_changed(level, item)), dress_prop_in_way), 0);

        // A wall that nobody gets up without a step.
        const Character courier = character_of(project, level);
        LevelMaker wall;
        wall.box({0, 0, -1}, {20, 10, 1});
        const double ledge = check::highest_ledge(courier);
        wall.box({6, 0, 0}, {6, 10, ledge + 0.9});
        const ItemId from = wall.start({-6, 0, 0}), up = wall.goal({7, 0, ledge + 0.9});
        wall.claim(Claim::Kind::not_reaches, from, up);
        Level guarded = wall.level();
        QCOMPARE(found(check::check_level(project, guarded), dress_prop_opens_way), 0);
        PlacedPiece step = prop_of(project, {2.4, 0, 0});
        step.sized = std::min(1.0, ledge * 0.9 / 1.2);
        const ItemId tub = put(guarded, step);
        const check::CheckResult open = check::check_level(project, guarded);
        QCOMPARE(found(open, dress_prop_opens_way), 1);
        for (const check::Finding& one : open.findings)
            if (one.rule == dress_prop_opens_way) QCOMPARE(one.items, std::vector<ItemId>{tub});
    }

    void finals_take_the_place_of_grey_ones_and_those_stay_what_is_met() {
        Project project = with_prop({2, 3, 1});
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 20, 1});
        const ItemId tub = maker.box({3, 2, 0}, {2, 3, 1}, 30), other = maker.box({-3, 2, 0}, {1, 1, 1});
        Level level = maker.level();
        Item named = *find_item(level, tub);
        named.name = "TUB";
        level = edit::with_changed(level, named);
        edit::LaidFinals laid = edit::with_finals(level, *project.kits[0]);
        QCOMPARE(laid.laid.size(), size_t(1));
        QVERIFY(laid.unknown.empty() && laid.laid[0].grey == tub);
        QVERIFY(glm::length(laid.laid[0].size_off_m) < 1e-6);
        const Item& final = *find_item(laid.level, laid.laid[0].final);
        QVERIFY(glm::length(box_of(final).low - box_of(*find_item(laid.level, tub)).low) < 1e-5);
        QVERIFY(find_item(laid.level, tub)->hidden && !final.hidden && edit::shows_finals(laid.level));
        QVERIFY(edit::grey_of(final) == tub);
        QCOMPARE(edit::grey_left(laid.level).finals, 1);
        QCOMPARE(edit::grey_left(laid.level).grey, 2);
        // What is met is what was met.
        const auto met = [&](const Level& of) {
            return motion::world_of(build::build_solid(of)).columns().size();
        };
        QCOMPARE(met(laid.level), met(level));
        const Level back = edit::with_finals_shown(laid.level, false);
        QVERIFY(!find_item(back, tub)->hidden && !edit::shows_finals(back));
        QVERIFY(edit::with_finals_shown(back, true) == laid.level);
        // Laid again, they are the same; and one that does not fit is found.
        QVERIFY(edit::with_finals(laid.level, *project.kits[0]).level == laid.level);
        QCOMPARE(found(check::check_level(project, laid.level), check::RuleId::final_misfit), 0);
        Item renamed = *find_item(level, other);
        renamed.name = "tub 2";
        Item not_it = named;
        not_it.name = "Barrel";
        Level small = edit::with_changed(edit::with_changed(level, not_it), [&] {
            Item one = renamed;
            one.name = "Tub";
            return one;
        }());
        const edit::LaidFinals misfit = edit::with_finals(small, *project.kits[0]);
        QVERIFY(misfit.laid.size() == 1 && misfit.laid[0].grey == other);
        QCOMPARE(found(check::check_level(project, misfit.level), check::RuleId::final_misfit), 1);
    }

    void light_at_the_eye_is_what_gets_there() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {40, 40, 1});
        maker.box({5, 0, 0}, {0.2, 10, 6}); // a wall between
        Element lamp{"lamp", {0, 0, 2}, 0, {}};
        lamp = with_value(with_value(lamp, "lumens", 1000.0), "reach_m", 20.0);
        maker.element_with(lamp);
        const Level level = maker.level();
        const check::CheckResult result = check::check_level(io::new_project("Test"), level);
        const std::vector<Light> lights = lights_of(level);
        const double candela = 1000 / (4 * std::numbers::pi);
        for (const double far : {1.0, 2.0, 4.0}) {
            const double fades = 1 - std::pow(far / 20, 4);
            const double lux = check::lux_at_eye(*result.world, lights, {-far, 0, 2});
            QVERIFY(std::abs(lux / (candela / (far * far) * fades * fades) - 1) < 1e-6);
        }
        QCOMPARE(check::lux_at_eye(*result.world, lights, {6, 0, 2}), 0.0);
        // In the open the sun shines and all of the sky does; under a roof neither.
        Light sun;
        sun.kind = Light::Kind::sun, sun.strength = 1000, sun.way = glm::normalize(Vec3(0.1, 0.2, -1));
        QVERIFY(std::abs(check::lux_at_eye(*result.world, {sun}, {-15, -15, 2}) - 1180) < 40);
        LevelMaker roofed;
        roofed.box({0, 0, -1}, {60, 60, 1}), roofed.box({0, 0, 3}, {60, 60, 1});
        const check::CheckResult under = check::check_level(io::new_project("Test"), roofed.level());
        QVERIFY(check::lux_at_eye(*under.world, {sun}, {0, 0, 1.6}) < 1);
    }

    void a_dark_stretch_of_the_way_is_found() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {80, 4, 1});
        maker.start({-35, 0, 0}), maker.goal({35, 0, 0});
        Element lamp{"lamp", {-30, 0, 3}, 0, {}};
        maker.element_with(with_value(with_value(lamp, "lumens", 2000.0), "reach_m", 12.0));
        Project project = io::new_project("Test");
        const check::CheckResult dark = check::check_level(project, maker.level());
        QCOMPARE(found(dark, check::RuleId::dress_dark_route), 1);
        for (const check::Place& place : dark.places)
            if (const Item* item = find_item(maker.level(), place.item);
                place.witness && role_of(*item->element()) == Role::goal) {
                const check::Pace pace = check::pace_of(project, maker.level(), dark, *place.witness);
                QVERIFY(pace.lux.size() > 10 && pace.lux.front() > 3 && pace.lux.back() == 0);
            }
        project.least_lux = 0;
        QCOMPARE(found(check::check_level(project, maker.level()), check::RuleId::dress_dark_route), 0);
        // A level without lights is as by day.
        LevelMaker plain;
        plain.box({0, 0, -1}, {80, 4, 1}), plain.start({-35, 0, 0}), plain.goal({35, 0, 0});
        QCOMPARE(found(check::check_level(io::new_project("Test"), plain.level()),
                       check::RuleId::dress_dark_route),
                 0);
    }
};

RUBBLE_TEST(PropsTest)
#include "props_test.moc"
