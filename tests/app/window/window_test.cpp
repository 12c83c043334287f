#include <QtTest/QtTest>

#include <filesystem>

#include <QListWidget>
#include <QMessageBox>
#include <QToolButton>

#include "app/window_driver.h"
#include "io/level_file.h"
#include "io/recording_file.h"
#include "level/brush_shape.h"
#include "test_program.h"
#include "theme.h"
#include "view/surface_format.h"
#include "window/arrangement.h"
#include "window/number_field.h"

#include <QTreeWidget>

using namespace rubble;
using namespace rubble::app;

/// What each part of the window does, one after the other.
class WindowTest : public WindowDriver {
    Q_OBJECT

private slots:
    void a_new_level_has_a_floor_and_a_start() {
        QCOMPARE(ordered_brushes(session().level()).size(), size_t(1));
        QCOMPARE(elements_of(session().level(), Role::start).size(), size_t(1));
        QVERIFY(session().built().check->places[0].reached == check::Reached::yes);
    }

    void a_box_is_drawn_stretched_and_undone() {
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 3, 0}, "1.5");
        QCOMPARE(ordered_brushes(session().level()).size(), size_t(2));
        QCOMPARE(selected().size, Vec3(2, 3, 1.5));
        QCOMPARE(selected().place.at, Vec3(1, 1.5, 0));
        // The dot on the right face, dragged out by one metre.
        const Vec3 dot = edit::middle_of(selected(), BoxSide::right);
        drag(dot, dot + Vec3(1, 0, 0));
        QCOMPARE(selected().size.x, 3.0);
        key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(selected().size.x, 2.0);
        key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(ordered_brushes(session().level()).size(), size_t(1));
        key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        QCOMPARE(ordered_brushes(session().level()).size(), size_t(2));
    }

    void a_drag_shows_the_level_as_it_would_be_and_escape_takes_it_back() {
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1");
        view().fly_to({2, 1, 0}); // near enough that the handles leave room between them
        const Vec3 top = edit::middle_of(selected(), BoxSide::top) + Vec3(-0.6, -0.6, 0);
        QTest::mousePress(&view(), Qt::LeftButton, {}, at(top));
        move_to(top + Vec3(2, 0, 0), Qt::LeftButton);
        move_to(top + Vec3(3, 0, 0), Qt::LeftButton);
        QCOMPARE(selected().place.at.x, 4.0);
        settle();
        keep_picture("drag");
        QTest::keyClick(&view(), Qt::Key_Escape);
        QCOMPARE(selected().place.at.x, 1.0);
        QTest::mouseRelease(&view(), Qt::LeftButton, {}, at(top));
        QCOMPARE(selected().place.at.x, 1.0);
    }

    void a_doorway_is_cut_and_moved() {
        draw_box(Qt::Key_B, {-2, 0, 0}, {2, 0.5, 0}, "3");
        settle();
        const double before = facts_of(*session().built().surface).volume_m3;
        draw_box(Qt::Key_X, {-0.5, -1, 0}, {0.5, 1.5, 0}, "2");
        QCOMPARE(selected().effect, Effect::cut);
        const double after = facts_of(*session().built().surface).volume_m3;
        QVERIFY2(std::abs(before - after - (0.5 * 2 * 1 + 0.01 * 2.5 * 1)) < 0.02,
                 qPrintable(QString::number(before - after)));
        const ItemId door = session().selection()[0];
        view().setFocus();
        QTest::keyClick(&view(), Qt::Key_Right);
        QCOMPARE(find_item(session().level(), door)->brush()->place.at.x, 0.5);
    }

    void sizes_are_typed_with_sums_and_units() {
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1");
        NumberField* height = nullptr;
        for (NumberField* field : window_->findChildren<NumberField*>())
            if (field->accessibleName() == "Height") height = field;
        QVERIFY(height);
        height->setFocus();
        height->selectAll();
        QTest::keyClicks(height, "4 + 50 cm");
        QTest::keyClick(height, Qt::Key_Return);
        QCOMPARE(selected().size.z, 4.5);
    }

    void things_are_named_where_their_facts_are() {
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1");
        auto* name = named<QLineEdit>("Name");
        QVERIFY(name);
        name->setFocus();
        QTest::keyClicks(name, "Ice chute");
        QTest::keyClick(name, Qt::Key_Return);
        QCOMPARE(session().selected()->name, std::string("Ice chute"));
        bool told = false;
        for (const QLabel* label : window_->findChildren<QLabel*>()) told |= label->text() == "Ice chute";
        QVERIFY(told);
        view().setFocus();
        key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(session().selected()->name.empty());
    }

    void copies_go_through_the_clipboard_with_fresh_ids() {
        draw_box(Qt::Key_B, {0, 0, 0}, {1, 1, 0}, "1");
        const ItemId first = session().selection()[0];
        key(Qt::Key_C, Qt::ControlModifier);
        move_to({-3, -3, 0});
        key(Qt::Key_V, Qt::ControlModifier);
        QCOMPARE(ordered_brushes(session().level()).size(), size_t(3));
        QVERIFY(session().selection()[0] != first);
        QVERIFY(glm::length(selected().place.at - Vec3(-3, -3, 0)) < 0.3);
        key(Qt::Key_D, Qt::ControlModifier);
        QCOMPARE(ordered_brushes(session().level()).size(), size_t(4));
        key(Qt::Key_Delete);
        QCOMPARE(ordered_brushes(session().level()).size(), size_t(3));
    }

    void a_goal_is_placed_claimed_and_reached() {
        key(Qt::Key_F3);
        window_->use_tool("place goal");
        move_to({4, 0, 0});
        QTest::mouseClick(&view(), Qt::LeftButton, {}, at({4, 0, 0}));
        window_->use_tool("select");
        QCOMPARE(elements_of(session().level(), Role::goal).size(), size_t(1));
        const ItemId goal = session().selection()[0];
        session().select({elements_of(session().level(), Role::start)[0]->id, goal});
        press("Start reaches");
        settle();
        QCOMPARE(session().built().check->claims.size(), size_t(1));
        QVERIFY(session().built().check->claims[0].state == check::ClaimState::holds);
        key(Qt::Key_F5);
        QCOMPARE(session().stage(), Stage::check);
    }

    void walking_moves_the_figure_and_comes_back_to_the_same_view() {
        const Vec3 target = view().camera().target;
        session().select({});
        key(Qt::Key_G);
        QVERIFY(view().walking());
        const Vec3 begin = view().walker()->state().at;
        hold_until(Qt::Key_W, [&] { return glm::length(view().walker()->state().at - begin) > 0.5; });
        keep_picture("walk");
        QTest::keyClick(&view(), Qt::Key_R);
        QVERIFY(glm::length(view().walker()->state().at - begin) < 0.05);
        QTest::keyClick(&view(), Qt::Key_N);
        QTest::keyClick(&view(), Qt::Key_Escape);
        QVERIFY(!view().walking());
        QCOMPARE(view().camera().target, target);
        QCOMPARE(elements_of(session().level(), Role::note).size(), size_t(1));
    }

    void what_is_saved_is_what_is_opened() {
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1");
        QVERIFY(!session().documents().saved());
        const QString file = folder_.filePath("small.level.json");
        QVERIFY(session().files().save(file));
        QVERIFY(session().documents().saved());
        const Level before = session().level();
        QVERIFY(window_->open_path(file));
        QVERIFY(session().level() == before);
        QVERIFY(*io::load_level(file.toStdString()) == before);
    }

    void a_damaged_file_leaves_the_open_level_as_it_was() {
        const QString file = folder_.filePath("broken.level.json");
        QFile broken(file);
        QVERIFY(broken.open(QIODevice::WriteOnly));
        broken.write("{ \"format\": 1, \"layers\": [ {");
        broken.close();
        const Level before = session().level();
        QVERIFY(!session().files().open(file));
        QVERIFY(session().level() == before);
    }

    void what_is_placed_on_a_wall_stands_before_it() {
        draw_box(Qt::Key_B, {-2, 2, 0}, {2, 3, 0}, "3");
        const BoxSide side = facing_side(selected());
        const Vec3 on_wall = edit::middle_of(selected(), side), outward = edit::outward(selected(), side);
        key(Qt::Key_F3);
        window_->use_tool("place goal");
        click(on_wall);
        const Vec3 goal = elements_of(session().level(), Role::goal)[0]->element()->at;
        QVERIFY2(std::abs(goal.z) < 1e-6, qPrintable(QString::number(goal.z)));
        const double before = glm::dot(goal - on_wall, outward);
        QVERIFY2(before > 0.3 && before < 0.4, qPrintable(QString::number(before)));
    }

    void a_ramp_is_drawn_and_one_gets_up_it() {
        draw_box(Qt::Key_T, {-2, 1, 0}, {2, 3, 0}, "1.5");
        QCOMPARE(selected().shape, Shape::ramp);
        const auto& result = *session().built().check;
        const int top = result.ground->ledge_at({1.5, 2, 1.5}, 0.4);
        QVERIFY(result.reach->reached(top));
    }

    void a_cylinder_is_drawn_and_made_coarser_and_a_cone() {
        draw_box(Qt::Key_O, {0, 0, 0}, {3, 3, 0}, "0.35");
        QCOMPARE(selected().shape, Shape::cylinder);
        QVERIFY(session().built().check->reach->reached(
            session().built().check->ground->ledge_at({1.5, 1.5, 0.35}, 0.1)));
        keep_picture("cylinder");
        auto* sides = named<NumberField>("Sides");
        QVERIFY(sides);
        sides->setFocus();
        sides->selectAll();
        QTest::keyClicks(sides, "6");
        QTest::keyClick(sides, Qt::Key_Return);
        QCOMPARE(selected().sides, 6);
        QCOMPARE(body_of(selected()).faces.size(), size_t(8));
        auto* shape = named<QComboBox>("Shape");
        emit shape->activated(shape->findText("Cone"));
        QCOMPARE(selected().shape, Shape::cone);
        QCOMPARE(body_of(selected()).faces.size(), size_t(7));
        settle();
    }

    void a_face_is_dressed_by_clicking_it() {
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1.5");
        const ItemId box = session().selection()[0];
        session().select({});
        key(Qt::Key_F4);
        QTest::mouseClick(&view(), Qt::LeftButton, {}, at({1, 1, 1.5}));
        QCOMPARE(session().selection(), std::vector<ItemId>{box});
        QVERIFY(session().selected_items().faces().at(0).face == FaceName(BoxSide::top));
        auto* materials = named<QListWidget>("Materials");
        QVERIFY(materials && materials->count() >= 2);
        const auto give = [&](int row) {
            materials->scrollToItem(materials->item(row));
            QTest::mouseClick(materials->viewport(), Qt::LeftButton, {},
                              materials->visualItemRect(materials->item(row)).center());
        };
        give(1);
        keep_picture("dress");
        const Brush& brush = *find_item(session().level(), box)->brush();
        QCOMPARE(brush.looks.size(), size_t(1));
        QCOMPARE(brush.looks.at(BoxSide::top).material, session().project().materials[1].id);
        // Another face of the same brush by another click; dragging moves nothing in this stage.
        const Vec3 front = edit::middle_of(brush, facing_side(brush));
        drag(front, front + Vec3(2, 0, 0));
        QCOMPARE(find_item(session().level(), box)->brush()->place.at, Vec3(1, 1, 0));
        give(0);
        QCOMPARE(find_item(session().level(), box)->brush()->looks.size(), size_t(2));
        press("Give to the whole brush");
        QVERIFY(find_item(session().level(), box)->brush()->looks.empty());
    }

    void a_hidden_layer_is_not_seen_but_still_there_to_walk_on() {
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1");
        auto* layers = named<QTreeWidget>("Layers");
        layers->topLevelItem(0)->setCheckState(0, Qt::Unchecked);
        QTRY_VERIFY(session().level().layers[0]->hidden);
        settle();
        QVERIFY(std::all_of(session().built().hidden.begin(), session().built().hidden.end(),
                            [](bool h) { return h; }));
        QVERIFY(session().built().check->places[0].reached == check::Reached::yes);
    }

    void the_cutaway_lets_one_click_through_what_is_taken_off() {
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "3");
        const ItemId box = session().selection()[0];
        session().select({});
        view().set_cut(1);
        QTest::mouseClick(&view(), Qt::LeftButton, {}, at({1, 1, 3}));
        QVERIFY(session().selection() != std::vector<ItemId>{box});
        session().select({}); // the floor's own arrow may lie where the box's top is
        view().set_cut(1e6);
        QTest::mouseClick(&view(), Qt::LeftButton, {}, at({1, 1, 3}));
        QCOMPARE(session().selection(), std::vector<ItemId>{box});
    }

    void keys_make_the_grid_finer_and_coarser_within_its_range() {
        const double before = session().grid_m();
        key(Qt::Key_Comma, Qt::ControlModifier);
        QCOMPARE(session().grid_m(), before / 2);
        for (int i = 0; i < 12; ++i) key(Qt::Key_Comma, Qt::ControlModifier);
        QCOMPARE(session().grid_m(), 1.0 / 16);
        for (int i = 0; i < 12; ++i) key(Qt::Key_Period, Qt::ControlModifier);
        QCOMPARE(session().grid_m(), 8.0);
    }

    void several_are_grouped_moved_and_ungrouped() {
        draw_box(Qt::Key_B, {0, 0, 0}, {1, 1, 0}, "1");
        const ItemId first = session().selection()[0];
        draw_box(Qt::Key_B, {3, 0, 0}, {4, 1, 0}, "1");
        session().select({first, session().selection()[0]});
        key(Qt::Key_G, Qt::ControlModifier);
        QCOMPARE(session().selection().size(), size_t(1));
        QVERIFY(session().selected()->group());
        view().setFocus();
        key(Qt::Key_Up);
        QCOMPARE(find_item(session().level(), first)->brush()->place.at.y, 0.5 + session().grid_m());
        key(Qt::Key_G, Qt::ControlModifier | Qt::ShiftModifier);
        QCOMPARE(session().selection().size(), size_t(2));
    }

    void the_witness_of_a_claim_is_watched() {
        QVERIFY(window_->open_path(
            QStringLiteral(RUBBLE_SOURCE_DIR "/demo-data/packing-hall/levels/packing-hall.level.json")));
        settle();
        key(Qt::Key_F5);
        auto* claims = named<QListWidget>("Claims");
        QVERIFY(claims && claims->count() > 0);
        int row = -1;
        for (size_t i = 0; i < session().built().check->claims.size(); ++i)
            if (session().built().check->claims[i].witness && row < 0) row = int(i);
        QVERIFY(row >= 0);
        claims->setCurrentRow(row);
        emit claims->itemClicked(claims->item(row));
        press("Watch");
        QVERIFY(window_->findChild<PaceStrip*>()->states().size() > 60);
        QTest::qWait(120);
        keep_picture("watch");
    }

    void a_file_changed_by_others_is_compared_before_it_is_taken() {
        const QString file = folder_.filePath("shared.level.json");
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1");
        QVERIFY(session().files().save(file));
        QVERIFY(window_->open_path(file));
        QTest::qWait(600); // the program's own writing is over
        Level theirs = session().level();
        theirs = edit::with_item(theirs, 0, {{"theirs"}, "Their crate", false, Brush{}, {}});
        QString said;
        int asked = 0;
        QTimer answer;
        connect(&answer, &QTimer::timeout, this, [&] {
            auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
            if (!box) return;
            said = box->text();
            const QString wanted = asked++ == 0 ? "Compare" : "Reload";
            for (QAbstractButton* button : box->buttons())
                if (button->text().remove('&') == wanted) return button->click();
        });
        answer.start(30);
        QVERIFY(io::save_level(theirs, file.toStdString()));
        QTRY_VERIFY_WITH_TIMEOUT(find_item(session().level(), {"theirs"}), 60000);
        QCOMPARE(asked, 2);
        QVERIFY2(said.contains("Their crate"), qPrintable(said));
    }

    void a_kept_run_that_gets_where_the_check_denies_is_a_defect_of_the_check() {
        const std::filesystem::path folder = folder_.filePath("hall").toStdString();
        std::filesystem::copy(RUBBLE_SOURCE_DIR "/demo-data/packing-hall", folder,
                              std::filesystem::copy_options::recursive);
        QVERIFY(window_->open_path(QString::fromStdString(folder / "levels/packing-hall.level.json")));
        settle();
        // A check that is wrong about the start, where the walk begins and ends.
        Built built = session().built();
        auto wrong = std::make_shared<check::CheckResult>(*built.check);
        const Item* start = elements_of(session().level(), Role::start).at(0);
        for (check::Place& place : wrong->places)
            if (place.item == start->id) place.reached = check::Reached::no;
        built.check = wrong;
        session().set_built(built);
        QString said;
        QTimer answer;
        connect(&answer, &QTimer::timeout, this, [&] {
            auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
            if (!box) return;
            said = box->text();
            box->accept();
        });
        answer.start(30);
        key(Qt::Key_G);
        QTRY_VERIFY_WITH_TIMEOUT(view().walker()->recording().steps() > 80, 60000);
        key(Qt::Key_Escape);
        press("Keep this run");
        QVERIFY2(said.contains("Start"), qPrintable(said));
        const auto runs = QDir(QString::fromStdString(folder / "runs")).entryList({"*.run.json"});
        QCOMPARE(runs.size(), 1);
        const auto kept = io::load_recording(folder / "runs" / runs[0].toStdString());
        QVERIFY(kept && kept->steps() > 80);
    }

    void a_command_is_found_by_a_part_of_its_name() {
        key(Qt::Key_J, Qt::ControlModifier);
        auto* text = named<QLineEdit>("Find a command");
        QVERIFY(text && text->isVisible());
        keep_picture("finder");
        QTest::keyClicks(text, "coarser");
        QTest::keyClick(text, Qt::Key_Return);
        QVERIFY(!text->isVisible());
        QCOMPARE(session().grid_m(), 1.0);
    }

    void a_key_is_changed_and_kept_for_the_next_window() {
        auto change = [this](const QString& part, Qt::Key to) {
            key(Qt::Key_J, Qt::ControlModifier);
            auto* text = named<QLineEdit>("Find a command");
            QTest::keyClicks(text, part);
            QTest::keyClick(text, Qt::Key_Return, Qt::ControlModifier);
            QTest::keyClick(text, to);
            QTest::keyClick(text, Qt::Key_Escape);
            view().setFocus();
        };
        change("draw a box", Qt::Key_T); // the ramp's
        QCOMPARE(window_->commands().find("tool-box")->action->shortcut(), QKeySequence(Qt::Key_B));
        change("draw a box", Qt::Key_F12);
        QCOMPARE(window_->commands().find("tool-box")->action->shortcut(), QKeySequence(Qt::Key_F12));
        QCOMPARE(named<QToolButton>("Box")->toolTip(), QString("Box (F12)"));
        open_anew();
        draw_box(Qt::Key_F12, {0, 0, 0}, {2, 2, 0}, "1");
        QCOMPARE(ordered_brushes(session().level()).size(), size_t(2));
        change("draw a box", Qt::Key_B);
        QVERIFY(QSettings().allKeys().filter("keys/").isEmpty()); // as it was at first
    }

    void the_arrangement_is_there_again_in_the_next_window() {
        auto* across = window_->findChild<QSplitter*>("across");
        across->setSizes({300, 700, 260});
        const QList<int> before = across->sizes();
        window_->close();
        open_anew();
        restore_arrangement(*window_);
        QCOMPARE(window_->findChild<QSplitter*>("across")->sizes(), before);
    }

    void every_stage_opens() {
        QVERIFY(window_->open_path(
            QStringLiteral(RUBBLE_SOURCE_DIR "/demo-data/packing-hall/levels/packing-hall.level.json")));
        for (int stage = 0; stage < 6; ++stage) {
            key(Qt::Key(Qt::Key_F1 + stage));
            QCOMPARE(int(session().stage()), stage);
            settle();
            QVERIFY(!window_->picture().isNull());
        }
        QVERIFY(ordered_brushes(session().level()).size() >= 60);
    }
};

RUBBLE_TEST(WindowTest)

#include "window_test.moc"
