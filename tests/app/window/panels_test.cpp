#include <QtTest/QtTest>

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QToolButton>

#include "build/surface_builder.h"
#include "check/spans.h"
#include "commands/commands.h"
#include "core/level_maker.h"
#include "edit/items.h"
#include "edit/project.h"
#include "facts/facts.h"
#include "facts/jump_envelope.h"
#include "finding_list.h"
#include "level/order.h"
#include "session/session.h"
#include "test_program.h"
#include "theme.h"
#include "tray/layer_list.h"
#include "tray/tray.h"
#include "window/command_finder.h"
#include "window/number_field.h"
#include "window/pace_strip.h"
#include "window/stage_line.h"

using namespace rubble;
using namespace rubble::app;
using test::LevelMaker;

namespace {

/// A session whose level is built and checked at once, in the caller's own time.
struct PanelDesk {
    Session session;

    explicit PanelDesk(const Level& level) {
        session.files().start_new();
        session.apply(level, "Test");
        check();
    }
    void check() {
        check::CheckOptions options;
        options.all_spans = true;
        auto result = check::check_level(session.project(), session.level(), options);
        Built built;
        built.solid = result.solid;
        built.surface = std::make_shared<build::Surface>(build::surface_of(*result.solid));
        built.hidden = hidden_brushes(session.level());
        built.check = std::make_shared<check::CheckResult>(std::move(result));
        built.version = built.check_version = session.version();
        session.set_built(built);
    }
    const Brush& brush(const ItemId& id) { return *find_item(session.level(), id)->brush(); }
};

/// Two banks with a gap between them, a start on one and a goal on the other, `gap` metres apart.
Level banks(double gap, Claim::Kind claim = Claim::Kind::reaches) {
    LevelMaker maker;
    maker.box({0, 0, 0}, {6, 6, 3});
    maker.box({6 + gap, 0, 0}, {6, 6, 3});
    const ItemId start = maker.start({-1, 0, 3});
    const ItemId goal = maker.goal({7 + gap, 0, 3});
    maker.claim(claim, start, goal);
    return maker.level();
}

QStringList texts_of(const QWidget& widget) {
    QStringList out;
    for (const QLabel* label : widget.findChildren<QLabel*>()) out << label->text();
    return out;
}

bool says(const QWidget& widget, const QString& part) {
    for (const QString& text : texts_of(widget))
        if (text.contains(part)) return true;
    return false;
}

template <class Widget> Widget* named(const QWidget& parent, const QString& name) {
    for (Widget* widget : parent.findChildren<Widget*>())
        if (widget->accessibleName() == name) return widget;
    return nullptr;
}

QPushButton* button(const QWidget& parent, const QString& begins) {
    for (QPushButton* one : parent.findChildren<QPushButton*>())
        if (one->text().startsWith(begins)) return one;
    return nullptr;
}

void type(NumberField& field, const QString& text) {
    field.selectAll();
    QTest::keyClicks(&field, text);
    QTest::keyClick(&field, Qt::Key_Return);
}

/// How many pixels of a widget have a colour, more or less.
int pixels_of(QWidget& widget, const QColor& color) {
    const QImage image = widget.grab().toImage();
    int count = 0;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x) {
            const QColor here = image.pixelColor(x, y);
            count += std::abs(here.red() - color.red()) + std::abs(here.green() - color.green()) +
                         std::abs(here.blue() - color.blue()) <
                     24;
        }
    return count;
}

} // namespace

/// The panels on a session that is built and checked; no window is needed for that.
class PanelsTest : public QObject {
    Q_OBJECT

private slots:
    // Pace strip ---------------------------------------------------------------------------------------

    void the_pace_strip_unrolls_the_run_of_the_first_claim_that_holds() {
        PanelDesk desk(banks(3));
        PaceStrip strip(desk.session);
        strip.show_run(nullptr, {});
        QCOMPARE(strip.states().size(), size_t(std::lround(strip.seconds() / motion::step_s)) + 1);
        QCOMPARE(strip.spans().size(), size_t(1));
        QVERIFY(std::abs(strip.spans()[0].gap_m - 3) < 1e-2);
        QVERIFY(glm::length(strip.route().front() - Vec3(-1, 0, 3)) < 1e-9);
        QVERIFY(glm::length(flat(strip.route().back()) - Vec2(10, 0)) < 0.5);
        QVERIFY(strip.title().contains("→"));
    }

    void without_a_run_the_strip_says_what_to_do() {
        PanelDesk desk(banks(9));
        PaceStrip strip(desk.session);
        strip.resize(800, 128);
        strip.show_run(nullptr, {});
        QVERIFY(strip.states().empty() && strip.seconds() == 0 && strip.route().empty());
        QVERIFY(!strip.grab().isNull());
    }

    void pointing_at_the_strip_tells_where_the_figure_is_then() {
        PanelDesk desk(banks(3));
        PaceStrip strip(desk.session);
        strip.resize(800, 128);
        strip.show_run(nullptr, {});
        std::optional<motion::PlayState> pointed;
        connect(&strip, &PaceStrip::pointedAt, this,
                [&](std::optional<motion::PlayState> state) { pointed = state; });
        auto point = [&](int x) {
            QMouseEvent event(QEvent::MouseMove, QPointF(x, 60), QPointF(x, 60), Qt::NoButton, {}, {});
            QCoreApplication::sendEvent(&strip, &event);
        };
        point(786); // the right end is the end of the run
        QVERIFY(pointed && glm::length(pointed->body.at - strip.states().back().at) < 0.2);
        point(191);
        QVERIFY(pointed && glm::length(pointed->body.at - strip.states().front().at) < 0.2);
        pointed = {};
        point(60); // beside it, on the title
        QVERIFY(!pointed);
        QEvent leave(QEvent::Leave);
        QCoreApplication::sendEvent(&strip, &leave);
        QVERIFY(!pointed);
    }

    // Stage line ---------------------------------------------------------------------------------------

    void stations_are_gone_to_by_clicking_and_by_keys() {
        PanelDesk desk(banks(3));
        StageLine line(desk.session);
        line.resize(720, 52);
        QTest::mouseClick(&line, Qt::LeftButton, {}, QPoint(60, 17));
        QCOMPARE(desk.session.stage(), Stage::metrics);
        QTest::mouseClick(&line, Qt::LeftButton, {}, QPoint(660, 17));
        QCOMPARE(desk.session.stage(), Stage::hand_off);
        QTest::keyClick(&line, Qt::Key_Right);
        QCOMPARE(desk.session.stage(), Stage::hand_off);
        QTest::keyClick(&line, Qt::Key_Left);
        QCOMPARE(desk.session.stage(), Stage::check);
        for (int i = 0; i < 9; ++i) QTest::keyClick(&line, Qt::Key_Left);
        QCOMPARE(desk.session.stage(), Stage::metrics);
    }

    void a_blocker_is_seen_at_its_station() {
        PanelDesk good(banks(3)), bad(banks(9));
        StageLine fine(good.session), broken(bad.session);
        good.session.go_to(Stage::metrics), bad.session.go_to(Stage::metrics);
        fine.resize(720, 52), broken.resize(720, 52);
        QVERIFY(fine.grab().toImage() != broken.grab().toImage());
    }

    // Metrics ------------------------------------------------------------------------------------------

    void a_character_that_jumps_farther_has_a_larger_envelope() {
        PanelDesk desk(banks(3));
        JumpEnvelope envelope(desk.session.documents());
        envelope.resize(220, 150);
        const QImage before = envelope.grab().toImage();
        NamedCharacter faster = *find_character(desk.session.project(), desk.session.level().character);
        faster.metrics.jump_height_m = 3;
        desk.session.apply(edit::with_character(desk.session.project(), faster), "Metrics");
        QVERIFY(envelope.grab().toImage() != before);
    }

    void a_number_of_the_character_is_typed_and_nonsense_is_refused() {
        PanelDesk desk(banks(3));
        desk.session.go_to(Stage::metrics);
        Facts facts(desk.session);
        auto* jump = named<NumberField>(facts, "Jump height");
        QVERIFY(jump);
        type(*jump, "1.5");
        QCOMPARE(desk.session.character().jump_height_m, 1.5);
        type(*jump, "-4");
        QCOMPARE(desk.session.character().jump_height_m, 1.5);
        type(*jump, "high");
        QCOMPARE(desk.session.character().jump_height_m, 1.5);
        desk.session.documents().undo();
        QVERIFY(desk.session.character().jump_height_m != 1.5);
    }

    void grades_and_module_are_the_projects() {
        PanelDesk desk(banks(3));
        desk.session.go_to(Stage::metrics);
        Tray tray(desk.session);
        for (const auto& [name, member] :
             {std::pair{"Module", &Project::module_m}, std::pair{"Turn step", &Project::turn_step_deg},
              std::pair{"Easy from", &Project::easy_pct}, std::pair{"Fair from", &Project::fair_pct}}) {
            auto* field = named<NumberField>(tray, name);
            QVERIFY2(field, name);
            type(*field, "12");
            QCOMPARE(desk.session.project().*member, 12.0);
        }
        // The grid has steps to choose from, and any of one's own; nonsense is none.
        auto* steps = named<QComboBox>(tray, "Grid step");
        QVERIFY(steps);
        for (const auto& [typed, grid_m] : {std::pair{"0.3", 0.3}, std::pair{"45 cm", 0.45},
                                            std::pair{"-1", 0.45}, std::pair{"wide", 0.45}}) {
            steps->lineEdit()->selectAll();
            QTest::keyClicks(steps->lineEdit(), typed);
            QTest::keyClick(steps->lineEdit(), Qt::Key_Return);
            QCOMPARE(desk.session.grid_m(), grid_m);
        }
    }

    // Facts --------------------------------------------------------------------------------------------

    void facts_say_what_a_brush_means_to_the_character() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 20, 1});
        const ItemId step = maker.box({3, 0, 0}, {1, 1, 0.3}), crate = maker.box({5, 0, 0}, {1, 1, 1}),
                     wall = maker.box({7, 0, 0}, {1, 1, 4}), ramp = maker.ramp({-4, 0, 0}, {4, 2, 1}),
                     steep = maker.ramp({-4, 5, 0}, {1, 2, 3});
        maker.start({0, 0, 0});
        PanelDesk desk(maker.level());
        Facts facts(desk.session);
        for (const auto& [id, what] : {std::pair{step, "steps onto it"}, std::pair{crate, "too high to step"},
                                       std::pair{wall, "too high to jump onto"}, std::pair{ramp, "walks it"},
                                       std::pair{steep, "too steep"}}) {
            desk.session.select({id});
            QVERIFY2(says(facts, what), what);
        }
    }

    void sizes_and_place_of_a_brush_are_typed() {
        LevelMaker maker;
        const ItemId id = maker.box({0, 0, 0}, {2, 2, 2});
        PanelDesk desk(maker.level());
        desk.session.select({id});
        Facts facts(desk.session);
        type(*named<NumberField>(facts, "Length"), "3 + 50cm");
        QCOMPARE(desk.brush(id).size.x, 3.5);
        type(*named<NumberField>(facts, "Middle of base, z"), "-1");
        QCOMPARE(desk.brush(id).place.at.z, -1.0);
        type(*named<NumberField>(facts, "Turned"), "30");
        QCOMPARE(desk.brush(id).place.turn_deg, 30.0);
        type(*named<NumberField>(facts, "Height"), "0");
        QCOMPARE(desk.brush(id).size.z, 2.0); // refused
        auto* effect = named<QComboBox>(facts, "Effect");
        emit effect->activated(1);
        QCOMPARE(desk.brush(id).effect, Effect::cut);
    }

    void a_failing_claim_names_what_is_missing_and_a_mend_is_tried() {
        PanelDesk desk(banks(5.2)); // a little too far
        Facts facts(desk.session);
        facts.show_claim(desk.session.level().claims[0].id);
        QVERIFY(says(facts, "Fails"));
        QVERIFY(says(facts, "Mends, each tried"));
        QPushButton* attempt = button(facts, "Try");
        QVERIFY(attempt);
        QTest::mouseClick(attempt, Qt::LeftButton);
        desk.check();
        QCOMPARE(desk.session.built().check->claims[0].state, check::ClaimState::holds);
        facts.show_claim(desk.session.level().claims[0].id);
        QVERIFY(says(facts, "Holds"));
        desk.session.documents().undo();
        desk.check();
        QCOMPARE(desk.session.built().check->claims[0].state, check::ClaimState::fails);
    }

    void a_claim_that_holds_offers_its_run_and_is_removed() {
        PanelDesk desk(banks(2));
        Facts facts(desk.session);
        facts.show_claim(desk.session.level().claims[0].id);
        std::optional<check::Witness> watched;
        connect(&facts, &Facts::watchWanted, this,
                [&](const check::Witness& witness, const QString&) { watched = witness; });
        QTest::mouseClick(button(facts, "Watch"), Qt::LeftButton);
        QVERIFY(watched);
        const auto end = motion::replayed(*desk.session.built().check->world, desk.session.character(),
                                          watched->recording);
        QVERIFY(glm::length(flat(end.at) - Vec2(9, 0)) < 0.5);
        QTest::mouseClick(button(facts, "Remove the claim"), Qt::LeftButton);
        QVERIFY(desk.session.level().claims.empty());
    }

    void two_selected_elements_offer_claims() {
        PanelDesk desk(banks(2));
        std::vector<ItemId> both;
        for (const Item* item : elements_of(desk.session.level())) both.push_back(item->id);
        Facts facts(desk.session);
        desk.session.select(both);
        const size_t before = desk.session.level().claims.size();
        QPushButton* back = button(facts, "From");
        QVERIFY(back);
        QTest::mouseClick(back, Qt::LeftButton);
        QCOMPARE(desk.session.level().claims.size(), before + 1);
        QCOMPARE(desk.session.level().claims.back().kind, Claim::Kind::returns);
    }

    void an_element_says_whether_one_gets_there_and_in_what_time() {
        PanelDesk near(banks(2)), far(banks(9));
        for (PanelDesk* desk : {&near, &far}) {
            Facts facts(desk->session);
            desk->session.select({elements_of(desk->session.level(), Role::goal)[0]->id});
            QVERIFY(says(facts, desk == &near ? "gets there in" : "does not get there"));
        }
    }

    // Tray ---------------------------------------------------------------------------------------------

    void layers_are_added_chosen_and_hidden() {
        PanelDesk desk(banks(2));
        LayerList list(desk.session);
        QTest::mouseClick(named<QToolButton>(list, "Add a layer"), Qt::LeftButton);
        QCOMPARE(desk.session.level().layers.size(), size_t(2));
        QCOMPARE(desk.session.layer(), 1);
        auto* rows = named<QTreeWidget>(list, "Layers");
        rows->setCurrentItem(rows->topLevelItem(0));
        QCOMPARE(desk.session.layer(), 0);
        rows->topLevelItem(0)->setCheckState(0, Qt::Unchecked);
        QTRY_VERIFY(desk.session.level().layers[0]->hidden);
        QCOMPARE(hidden_brushes(desk.session.level()), std::vector<bool>(2, true));
        desk.session.documents().undo();
        QCOMPARE(named<QTreeWidget>(list, "Layers")->topLevelItem(0)->checkState(0), Qt::Checked);
    }

    void the_list_of_findings_leads_to_their_places() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {10, 10, 1});
        maker.start({0, 0, 0});
        const ItemId goal = maker.goal({0, 0, 20}); // over nothing one can stand on
        PanelDesk desk(maker.level());
        desk.session.go_to(Stage::check);
        Tray tray(desk.session);
        std::vector<ItemId> chosen;
        connect(&tray, &Tray::findingWanted, this, [&](int wanted) {
            chosen =
                in_walking_order(*desk.session.built().check, desk.session.level())[size_t(wanted)].items;
        });
        bool found = false;
        for (QListWidget* list : tray.findChildren<QListWidget*>())
            for (int i = 0; i < list->count(); ++i) {
                list->setCurrentRow(i);
                found |= chosen == std::vector<ItemId>{goal};
            }
        QVERIFY(found);
    }

    void the_hand_off_tells_what_will_be_in_the_file() {
        PanelDesk desk(banks(2));
        desk.session.go_to(Stage::hand_off);
        Tray tray(desk.session);
        QTRY_VERIFY(says(tray, "triangle"));
        bool wanted = false;
        connect(&tray, &Tray::exportWanted, this, [&] { wanted = true; });
        QTest::mouseClick(button(tray, "Export"), Qt::LeftButton);
        QVERIFY(wanted);
    }

    void a_tool_in_the_hand_is_marked() {
        PanelDesk desk(banks(2));
        desk.session.go_to(Stage::block_out);
        Tray tray(desk.session);
        QString wanted;
        connect(&tray, &Tray::toolWanted, this, [&](const QString& name) { wanted = name; });
        tray.mark_tool("ramp");
        int marked = 0, tools = 0;
        for (auto* one : tray.findChildren<QAbstractButton*>())
            if (one->isCheckable()) ++tools, marked += one->isChecked();
        QVERIFY(tools >= 5);
        QCOMPARE(marked, 1);
    }

    // Commands -----------------------------------------------------------------------------------------

    void commands_are_found_by_words_in_any_order() {
        QWidget window;
        Commands commands(window, [] { return false; });
        int ran = 0;
        commands.add("t-save", "Save the level", QKeySequence("Ctrl+S"), [&] { ++ran; });
        commands.add("t-saveas", "Save the level as another file", {}, [] {});
        commands.add("t-level", "Next level", QKeySequence("Ctrl+N"), [] {});
        QCOMPARE(commands.matching("level save").size(), size_t(2));
        QCOMPARE(commands.matching("ctrl+n").size(), size_t(1));
        QCOMPARE(commands.matching("nothing").size(), size_t(0));
        QCOMPARE(commands.matching("").size(), size_t(3));
        QCOMPARE(commands.matching("next")[0]->id, QString("t-level"));
        commands.find("t-save")->action->trigger();
        QCOMPARE(ran, 1);
    }

    void a_key_in_use_is_not_given_away() {
        QWidget window;
        Commands commands(window, [] { return false; });
        commands.add("t-one", "One", QKeySequence("Ctrl+1"), [] {});
        commands.add("t-two", "Two", QKeySequence("Ctrl+2"), [] {});
        const auto* holder = commands.change_key("t-two", QKeySequence("Ctrl+1"));
        QVERIFY(holder && holder->id == "t-one");
        QCOMPARE(commands.find("t-two")->action->shortcut(), QKeySequence("Ctrl+2"));
        QVERIFY(!commands.change_key("t-two", QKeySequence("Ctrl+3")));
        QCOMPARE(commands.find("t-two")->action->shortcut(), QKeySequence("Ctrl+3"));
        QVERIFY(!commands.change_key("t-two", QKeySequence("Ctrl+2")));
    }

    void no_command_runs_while_the_figure_walks() {
        QWidget window;
        bool walking = true;
        int ran = 0;
        Commands commands(window, [&] { return walking; });
        commands.add("t-run", "Run", QKeySequence("R"), [&] { ++ran; });
        commands.find("t-run")->action->trigger();
        QCOMPARE(ran, 0);
        walking = false;
        commands.find("t-run")->action->trigger();
        QCOMPARE(ran, 1);
    }

    // Fields -------------------------------------------------------------------------------------------

    void a_field_steps_with_the_wheel_and_the_arrows() {
        NumberField field("Length", 0.5, "m");
        field.show_value(2);
        double now = 2;
        connect(&field, &NumberField::changedTo, this, [&](double value) {
            now = value;
            field.show_value(value);
        });
        field.show();
        field.setFocus();
        QTest::keyClick(&field, Qt::Key_Up);
        QCOMPARE(now, 2.5);
        QTest::keyClick(&field, Qt::Key_Down);
        QTest::keyClick(&field, Qt::Key_Down);
        QCOMPARE(now, 1.5);
        type(field, "3 + 500cm");
        QCOMPARE(now, 8.0);
        type(field, "two");
        QCOMPARE(now, 8.0);
        QVERIFY(field.text().startsWith("8"));
    }

    void a_jump_is_drawn_in_the_colour_of_its_grade() {
        for (const auto& [gap, easy] : {std::pair{2.0, true}, std::pair{4.6, false}}) {
            PanelDesk desk(banks(gap));
            PaceStrip strip(desk.session);
            strip.resize(800, 128);
            strip.show_run(nullptr, {});
            QCOMPARE(strip.spans().size(), size_t(1));
            QCOMPARE(strip.spans()[0].grade, easy ? check::Grade::easy : check::Grade::tight);
            QCOMPARE(pixels_of(strip, color::sea_green) > 20, easy);
            QCOMPARE(pixels_of(strip, color::ochre) > 20, !easy);
        }
    }
};

RUBBLE_TEST(PanelsTest)
#include "panels_test.moc"
