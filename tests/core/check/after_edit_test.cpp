#include <QtTest/QtTest>

#include "check/check.h"
#include "core/check/fixtures.h"
#include "core/check/random_level.h"
#include "edit/items.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::check;
using test::Random;

namespace {

/// One edit as a designer makes them: a brush moved, resized, turned, deleted or added.
Level edited(const Level& level, Random& random) {
    std::vector<const Item*> brushes;
    for (const auto& item : level.layers[0]->items)
        if (item->brush() && item->id.value != "b1") brushes.push_back(&*item);
    if (brushes.empty()) return level;
    Item item = *brushes[size_t(random.whole(0, int(brushes.size()) - 1))];
    const std::vector<ItemId> one{item.id};
    Brush& brush = std::get<Brush>(item.body);
    switch (random.whole(0, 4)) {
    case 0:
        return edit::moved(
            level, one,
            {random.stepped(-2, 2, 0.25), random.stepped(-2, 2, 0.25), random.stepped(0, 1, 0.25)});
    case 1:
        brush.size[random.whole(0, 2)] = random.stepped(0.25, 3, 0.25);
        return edit::with_changed(level, item);
    case 2:
        return edit::turned(level, one, brush.place.at, random.stepped(15, 345, 15));
    case 3:
        return edit::without(level, one);
    default:
        item.id = edit::fresh_id(level, "b");
        brush.place.at += Vec3(random.stepped(-3, 3, 0.25), random.stepped(-3, 3, 0.25), 0);
        return edit::with_item(level, 0, item);
    }
}

/// Where two grounds differ; empty where they are the same to the last bit.
QString difference(const Ground& a, const Ground& b) {
    if (a.tops.size() != b.tops.size()) return "tops";
    if (a.fragments.size() != b.fragments.size())
        return QString("%1 and %2 fragments").arg(a.fragments.size()).arg(b.fragments.size());
    if (a.ledges.size() != b.ledges.size())
        return QString("%1 and %2 ledges").arg(a.ledges.size()).arg(b.ledges.size());
    for (size_t i = 0; i < a.fragments.size(); ++i) {
        const Fragment &f = a.fragments[i], &g = b.fragments[i];
        const QString name = QString("fragment %1: ").arg(i);
        if (f.area != g.area || f.top != g.top || f.low != g.low) return name + "shape";
        if (f.lowest_m != g.lowest_m || f.highest_m != g.highest_m) return name + "heights";
        if (f.ledge != g.ledge) return name + "ledge";
        if (f.portals.size() != g.portals.size()) return name + "portals";
        for (size_t k = 0; k < f.portals.size(); ++k) {
            const Portal &p = f.portals[k], &q = g.portals[k];
            if (p.to != q.to || p.a != q.a || p.b != q.b || p.walked != q.walked || p.rise != q.rise)
                return name + "portal";
        }
    }
    return {};
}

} // namespace

/// A check that takes over what an edit left alone against one from nothing.
class AfterEditTest : public QObject {
    Q_OBJECT

private slots:
    void the_ground_is_the_same_to_the_last_bit() {
        Random random(8101);
        size_t kept = 0, all = 0;
        for (int n = 0; n < test::rounds(20); ++n) {
            Level level = test::random_level(random);
            build::SolidBuilder builder;
            const Character c = character_of({}, level);
            auto world = std::make_unique<motion::World>(motion::world_of(builder.build(level)));
            auto ground = std::make_unique<Ground>(ground_of(*world, c));
            for (int k = 0; k < 5; ++k) {
                level = edited(level, random);
                auto next = std::make_unique<motion::World>(motion::world_of(builder.build(level)));
                const motion::WorldChange change = motion::change_between(*world, *next);
                const GroundBefore before{*ground, change};
                auto after = std::make_unique<Ground>(ground_of(*next, c, {}, &before));
                const QString where = difference(*after, ground_of(*next, c));
                QVERIFY2(where.isEmpty(), qPrintable(where));
                for (int f : after->before) kept += f >= 0, ++all;
                world = std::move(next), ground = std::move(after);
            }
        }
        qInfo("%zu of %zu fragments taken over", kept, all);
        QVERIFY(kept > 0 && kept < all);
    }

    /// A run that was found before and that no change comes near stays proven, even where a search from
    /// nothing happens to miss it: so it may know more, never less.
    void what_is_reached_is_the_same_or_more() {
        Random random(8102);
        int ledges = 0, more = 0, places = 0, judged_otherwise = 0;
        for (int n = 0; n < test::rounds(20); ++n) {
            Level level = test::random_level(random);
            build::SolidBuilder builder;
            CheckOptions options;
            options.explain = false;
            options.before = std::make_shared<CheckResult>(check_level({}, level, builder, options));
            for (int k = 0; k < 5; ++k) {
                level = edited(level, random);
                auto after = std::make_shared<CheckResult>(check_level({}, level, builder, options));
                CheckOptions from_nothing;
                from_nothing.explain = false;
                const CheckResult full = check_level({}, level, from_nothing);
                QCOMPARE(after->ground->ledges.size(), full.ground->ledges.size());
                for (int l = 0; l < int(full.ground->ledges.size()); ++l) {
                    ++ledges;
                    const bool reached = after->reach->reached(l);
                    QVERIFY(reached || !full.reach->reached(l));
                    more += reached && !full.reach->reached(l);
                    if (full.reach->reached(l))
                        QVERIFY(after->returns[size_t(l)] || !full.returns[size_t(l)]);
                }
                for (size_t i = 0; i < full.places.size(); ++i) {
                    ++places;
                    judged_otherwise += after->places[i].reached != full.places[i].reached;
                    if (!after->places[i].witness) continue;
                    const auto end = motion::replayed(*after->world, after->character,
                                                      after->places[i].witness->recording);
                    QVERIFY(has_thing(*after->world, end, after->character,
                                      find_item(level, after->places[i].item)->element()->at));
                }
                options.before = after;
            }
        }
        qInfo("%d of %d ledges reached that were not from nothing; %d of %d places judged otherwise", more,
              ledges, judged_otherwise, places);
        QCOMPARE(judged_otherwise, 0);
        QVERIFY(more * 200 <= ledges);
    }

    /// Each stage reads only some of a level; what it does not read does not make it run again.
    void a_stage_whose_input_did_not_change_gives_what_it_gave() {
        const Level level = test::GapFixture{6}.level({});
        build::SolidBuilder builder;
        CheckOptions options;
        options.all_spans = true;
        const auto first = std::make_shared<CheckResult>(check_level({}, level, builder, options));
        QVERIFY(!first->near_misses.empty());
        options.before = first;
        const auto checked = [&](const Level& other) { return check_level({}, other, builder, options); };

        const CheckResult same = checked(level);
        QVERIFY(same.world == first->world && same.ground == first->ground && same.reach == first->reach);
        QCOMPARE(same.near_misses.size(), first->near_misses.size());
        QCOMPARE(same.claims[0].reason.size(), first->claims[0].reason.size());

        // A claim more: only it is judged.
        Level asked = level;
        asked.claims.push_back(
            {{"c2"}, {}, Claim::Kind::not_reaches, asked.claims[0].from, asked.claims[0].to, {}, {}, 0, {}});
        const CheckResult more = checked(asked);
        QVERIFY(more.reach == first->reach);
        QVERIFY(more.claims[0].state == ClaimState::fails && more.claims[1].state == ClaimState::holds);

        // The goal elsewhere: the ground is the same, the claim is another.
        Item goal = *find_item(level, level.claims[0].to);
        std::get<Element>(goal.body).at =
            find_item(level, level.claims[0].from)->element()->at + Vec3(0.5, 0, 0);
        const CheckResult moved = checked(edit::with_changed(level, goal));
        QVERIFY(moved.ground == first->ground && moved.reach != first->reach);
        QVERIFY(moved.claims[0].state == ClaimState::holds && moved.near_misses.empty());

        // Another character in the same world.
        Level stronger = level;
        stronger.characters[level.character]["run_speed_mps"] = 12;
        const CheckResult strong = checked(stronger);
        QVERIFY(strong.world == first->world && strong.ground != first->ground);
        QVERIFY(strong.claims[0].state == ClaimState::holds);
    }

    /// Edits of all that a check reads, one after the other, against a check from nothing.
    void whatever_is_edited_the_answers_are_those_from_nothing() {
        Random random(8103);
        for (int n = 0; n < test::rounds(8); ++n) {
            Level level = test::random_level(random);
            const auto elements = elements_of(level);
            for (int i = 0; i < 3; ++i) {
                const auto end = [&] {
                    return elements[size_t(random.whole(0, int(elements.size()) - 1))]->id;
                };
                level.claims.push_back({{"q" + std::to_string(i)},
                                        {},
                                        Claim::Kind(random.whole(0, 2)),
                                        end(),
                                        end(),
                                        {},
                                        {},
                                        0,
                                        {}});
            }
            build::SolidBuilder builder;
            CheckOptions options;
            options.mends = false;
            for (int k = 0; k < 6; ++k) {
                auto after = std::make_shared<CheckResult>(check_level({}, level, builder, options));
                CheckOptions from_nothing;
                from_nothing.mends = false;
                const CheckResult full = check_level({}, level, from_nothing);
                QCOMPARE(after->claims.size(), full.claims.size());
                for (size_t i = 0; i < full.claims.size(); ++i) {
                    QCOMPARE(after->claims[i].id.value, full.claims[i].id.value);
                    QCOMPARE(after->claims[i].state, full.claims[i].state);
                    QCOMPARE(after->claims[i].reason.empty(), full.claims[i].reason.empty());
                }
                for (size_t i = 0; i < full.places.size(); ++i)
                    QCOMPARE(after->places[i].reached, full.places[i].reached);
                QCOMPARE(after->near_misses.size(), full.near_misses.size());
                QCOMPARE(after->findings.size(), full.findings.size());
                options.before = after;
                switch (k % 3) {
                case 0:
                    level.claims[size_t(k) / 3].kind = Claim::Kind(random.whole(0, 2));
                    break;
                case 1: {
                    Item item = *find_item(level, elements_of(level).back()->id);
                    std::get<Element>(item.body).at += Vec3(random.stepped(-2, 2, 0.5), 0, 0);
                    level = edit::with_changed(level, item);
                    break;
                }
                default:
                    level = edited(level, random);
                }
            }
        }
    }
};

RUBBLE_TEST(AfterEditTest)
#include "after_edit_test.moc"
