#include <QCheckBox>
#include <QInputDialog>
#include <QRadioButton>
#include <QTabWidget>
#include <QToolButton>

#include "app/tiles_driver.h"
#include "test_program.h"
#include "tiles/edging_view.h"
#include "tiles/sheet_dialog.h"
#include "tiles/sheet_palette.h"

using namespace rubble;
using namespace rubble::app;

/// From a new Side or Plan level, or from a sheet that is dropped on the window, to what is painted, walked
/// and claimed, by mouse and keys alone.
class TilesJourneyTest : public TilesDriver {
    Q_OBJECT

private slots:
    void a_new_level_asks_how_it_is_seen() {
        when_asked<QDialog>([](QDialog& dialog) {
            auto* side = dialog.findChild<QToolButton*>("frame-side");
            QVERIFY(side);
            QTest::mouseClick(side, Qt::LeftButton);
        });
        key(Qt::Key_N, Qt::ControlModifier);
        QCOMPARE(session().level().frame, Frame::side);
        QCOMPARE(view().camera().kind, Camera::Kind::front);
        QVERIFY(!plan().isVisible());
        QVERIFY(window_->windowTitle().endsWith("Rubble"));
        settle();
        keep_picture("new-side");
        // Nobody who says no gets another level.
        when_asked<QDialog>([](QDialog& dialog) { QTest::keyClick(&dialog, Qt::Key_Escape); });
        key(Qt::Key_N, Qt::ControlModifier);
        QCOMPARE(session().level().frame, Frame::side);
        start(Frame::plan);
        QCOMPARE(view().camera().kind, Camera::Kind::above);
        keep_picture("new-plan");
        start(Frame::space);
        QCOMPARE(view().camera().kind, Camera::Kind::free);
        QVERIFY(plan().isVisible());
    }

    void cells_are_painted_filled_erased_and_each_stroke_is_one_step() {
        start(Frame::side);
        QCOMPARE(tile_at(0, -0.25), 0);
        QCOMPARE(tile_at(0, 1.25), -1);
        key(Qt::Key_U);
        drag(Vec3(-2.25, 0, 1.25), Vec3(2.25, 0, 1.25));
        for (double x = -2.25; x <= 2.25; x += 0.5) QCOMPARE(tile_at(x, 1.25), 0);
        settle();
        QVERIFY(session().built().check->ground->ledges.size() >= 2); // one walks on it
        undo();
        QCOMPARE(tile_at(0, 1.25), -1);
        QVERIFY(session().documents().undo_text().isEmpty());
        key(Qt::Key_J);
        drag(Vec3(1.25, 0, 2.25), Vec3(3.25, 0, 0.25));
        QCOMPARE(tile_at(2.25, 1.25), 0);
        QCOMPARE(tile_at(3.75, 1.25), -1);
        key(Qt::Key_Z);
        drag(Vec3(2.25, 0, 1.25), Vec3(2.25, 0, 1.25));
        QCOMPARE(tile_at(2.25, 1.25), -1);
        // What is enclosed is filled; Escape gives a stroke up.
        key(Qt::Key_7);
        click(Vec3(2.25, 0, 1.25));
        QCOMPARE(tile_at(2.25, 1.25), 0);
        key(Qt::Key_U);
        const Level before = session().stored_level();
        drag(view(), at(Vec3(-5.25, 0, 2.25)), at(Vec3(-3.25, 0, 2.25)), {}, [&](int step) {
            if (step == 5) QTest::keyClick(&view(), Qt::Key_Escape);
        });
        QVERIFY(session().stored_level() == before && session().level() == before);
        settle();
        keep_picture("painted");
    }

    void a_gap_is_built_checked_and_walked() {
        start(Frame::side);
        // A pit of four metres through the ground.
        key(Qt::Key_Z);
        for (double z = -0.25; z > -2; z -= 0.5) drag(Vec3(0.25, 0, z), Vec3(3.75, 0, z));
        session().go_to(Stage::populate);
        window_->use_tool("place goal");
        click(Vec3(8, 0, 0.3));
        settle();
        QCOMPARE(elements_of(session().level(), Role::goal).size(), size_t(1));
        const Vec3 goal = elements_of(session().level(), Role::goal)[0]->element()->at;
        QVERIFY(std::abs(goal.z) < 1e-6 && goal.y == 0); // on the ground below the pointer
        QCOMPARE(goal_reached(), check::Reached::yes);
        session().go_to(Stage::check);
        settle();
        keep_picture("side-check");
        QVERIFY(!session().built().check->spans.empty());
        const check::Span& span = session().built().check->spans[0];
        QVERIFY2(std::abs(span.gap_m - 4) < 0.02, qPrintable(QString::number(span.gap_m)));
        // Walked from the pointer: the keys are the figure's, whatever commands have them.
        take_focus();
        move_to(Vec3(-6, 0, 1));
        key(Qt::Key_G);
        QVERIFY(view().walking());
        QTRY_VERIFY(view().walker()->state().standing);
        const double begin = view().walker()->state().at.x;
        QVERIFY(std::abs(begin + 6) < 0.5);
        hold_until(Qt::Key_D, [&] { return view().walker()->state().at.x > begin + 2; });
        QCOMPARE(view().walker()->state().at.y, 0.0);
        keep_picture("side-walk");
        key(Qt::Key_Escape);
        QVERIFY(!view().walking());
    }

    void a_sheet_dropped_on_the_window_is_cut_painted_with_and_saved() {
        start(Frame::side);
        QVERIFY(session().files().save(folder_.path() + "/first.level.json"));
        const QString picture = grey_picture();
        QVERIFY(!picture.isEmpty());
        bool asked = false;
        when_asked<SheetDialog>([&](SheetDialog& dialog) {
            asked = true;
            keep_picture_of(dialog, "sheet");
            QCOMPARE(dialog.sheet().cut.cell_px, (std::array{16, 16}));
            QCOMPARE(dialog.sheet().tiles.size(), size_t(24));
            agree(dialog);
        });
        drop(picture);
        QTRY_VERIFY(asked);
        QTRY_COMPARE(session().project().sheets.size(), size_t(1));
        QCOMPARE(session().project().sheets[0]->file, std::string("bricks.sheet.json"));
        QVERIFY(session().project().sheets[0]->tile(0)->collision == TileCollision::full); // guessed
        // A layer that is drawn from it, and the slope taken into the hand from the tray.
        window_->commands().find("tile-layer")->action->trigger();
        QCOMPARE(tiles().sheet_file, std::string("bricks.sheet.json"));
        auto* palette = window_->findChild<SheetPalette*>();
        QVERIFY(palette);
        auto* sheet = palette->findChild<SheetView*>();
        QVERIFY(sheet && sheet->isVisible());
        sheet->choose({{5, 0}});
        QCOMPARE(session().looking().stamp().tiles[0].number(), 5);
        view().frame_all();
        key(Qt::Key_U);
        click(Vec3(2.25, 0, 0.25));
        QCOMPARE(tile_at(2.25, 0.25), 5);
        key(Qt::Key_Comma); // mirrored in the hand
        click(Vec3(4.25, 0, 0.25));
        QVERIFY(tiles().grid.at(cell_at(tiles(), Frame::side, {4.25, 0, 0.25})).mirrored());
        settle();
        keep_picture("with-sheet");
        QVERIFY(session().files().save());
        QVERIFY(QFile::exists(folder_.path() + "/bricks.sheet.json"));
        const Level saved = session().stored_level();
        open_anew();
        QVERIFY(window_->open_path(folder_.path() + "/first.level.json"));
        settle();
        QVERIFY(find_sheet(session().project(), "bricks.sheet.json"));
        QCOMPARE(session().level().layers.size(), saved.layers.size());
        const auto& again = **session().level().layers.back()->tiles;
        QCOMPARE(again.grid.at(cell_at(again, Frame::side, {2.25, 0, 0.25})).number(), 5);
        QCOMPARE((*session().level().layers.back()->tiles)->sheet->tiles.size(), size_t(24));
    }

    void what_collides_is_said_for_many_tiles_and_drawn_for_one() {
        start(Frame::side);
        QVERIFY(session().files().save(folder_.path() + "/second.level.json"));
        when_asked<SheetDialog>([](SheetDialog& dialog) { agree(dialog); });
        drop(grey_picture());
        QTRY_COMPARE(session().project().sheets.size(), size_t(1));
        bool done = false;
        when_asked<SheetDialog>([&](SheetDialog& dialog) {
            auto* sheet = dialog.findChild<SheetView*>();
            auto* outline = dialog.findChild<OutlineView*>();
            QVERIFY(sheet && outline);
            // Five tiles of the first row at once.
            const double scale = double(sheet->width()) / test::grey()->picture->width;
            const double cell = 16 * std::floor(scale);
            drag_over(*sheet, {cell / 2, cell / 2}, {cell * 4.5, cell / 2});
            QCOMPARE(sheet->chosen_tiles().size(), size_t(5));
            for (QRadioButton* button : dialog.findChildren<QRadioButton*>())
                if (button->text().contains("One-way")) QTest::mouseClick(button, Qt::LeftButton);
            QVERIFY(dialog.sheet().tile(3)->collision == TileCollision::one_way);
            // One corner of one tile's outline dragged by a real hand.
            QTest::mouseClick(sheet, Qt::LeftButton, {}, QPoint(int(cell * 5.5), int(cell / 2)));
            for (QRadioButton* button : dialog.findChildren<QRadioButton*>())
                if (button->text().contains("Outline")) QTest::mouseClick(button, Qt::LeftButton);
            const std::vector<Vec2> before = dialog.sheet().tile(5)->outline;
            QVERIFY(before.size() >= 3);
            const QRectF all = outline->rect();
            const double half = std::min(all.width(), all.height()) / 2;
            const auto on = [&](Vec2 p) {
                return QPointF(all.center().x() + (p.x - 0.5) * half, all.center().y() - (p.y - 0.5) * half);
            };
            drag_over(*outline, on(before[0]), on(before[0] + Vec2(0.25, 0)));
            QVERIFY(dialog.sheet().tile(5)->outline != before);
            keep_picture_of(dialog, "outline");
            done = true;
            agree(dialog);
        });
        window_->commands().find("edit-sheet")->action->trigger();
        QVERIFY(done);
        QVERIFY(session().project().sheets[0]->tile(3)->collision == TileCollision::one_way);
        undo();
        QVERIFY(session().project().sheets[0]->tile(3)->collision != TileCollision::one_way);
    }

    void a_ground_is_marked_once_and_edges_itself() {
        start(Frame::side);
        QVERIFY(session().files().save(folder_.path() + "/third.level.json"));
        when_asked<SheetDialog>([](SheetDialog& dialog) { agree(dialog); });
        drop(grey_picture());
        QTRY_COMPARE(session().project().sheets.size(), size_t(1));
        when_asked<SheetDialog>([&](SheetDialog& dialog) {
            auto* tabs = dialog.findChild<QTabWidget*>();
            auto* sheet = dialog.findChild<SheetView*>();
            auto* cases = dialog.findChild<EdgingView*>();
            QVERIFY(tabs && sheet && cases);
            tabs->setCurrentIndex(1);
            for (QPushButton* button : dialog.findChildren<QPushButton*>())
                if (button->text().contains("ground")) QTest::mouseClick(button, Qt::LeftButton);
            for (QCheckBox* box : dialog.findChildren<QCheckBox*>())
                if (box->isChecked()) QTest::mouseClick(box, Qt::LeftButton); // sixteen cases do
            QCOMPARE(dialog.sheet().edgings.size(), size_t(1));
            // Tile after tile is clicked; each goes to the marked case, and the next one is marked.
            const double cell = 16 * std::floor(double(sheet->width()) / test::grey()->picture->width);
            for (int i = 0; i < 16; ++i)
                QTest::mouseClick(sheet, Qt::LeftButton, {},
                                  QPoint(int(cell * (i % 8 + 0.5)), int(cell * (i / 8 + 0.5))));
            QCOMPARE(dialog.sheet().edgings[0].tiles.size(), size_t(16));
            keep_picture_of(dialog, "edging");
            agree(dialog);
        });
        window_->commands().find("edit-sheet")->action->trigger();
        const Edging& edging = session().project().sheets[0]->edgings.at(0);
        window_->commands().find("tile-layer")->action->trigger();
        auto* grounds = named<QComboBox>("Ground");
        QVERIFY(grounds && grounds->isVisible() && grounds->count() == 2);
        grounds->setFocus();
        QTest::keyClick(grounds, Qt::Key_Down);
        QCOMPARE(session().looking().ground(), 0);
        view().frame_all();
        view().setFocus();
        key(Qt::Key_J);
        drag(Vec3(-1.25, 0, 2.25), Vec3(1.25, 0, 1.25));
        using Around = GroundAround;
        const auto wanted = [&](int sides) {
            return edging.tiles.at(Around(uint8_t(sides)).without_corners());
        };
        QCOMPARE(tile_at(0.25, 1.75), wanted(Around::right | Around::above | Around::left | Around::below));
        QCOMPARE(tile_at(-1.25, 2.25), wanted(Around::right | Around::below));
        QCOMPARE(tile_at(0.25, 1.25), wanted(Around::right | Around::above | Around::left));
        // What is erased gets edges around it; what is put by hand stays.
        key(Qt::Key_Z);
        click(Vec3(0.25, 0, 1.75));
        QCOMPARE(tile_at(0.25, 1.25), wanted(Around::right | Around::left));
        settle();
        keep_picture("edged");
        // The solid ground is clothed with it in one step.
        session().looking().set_layer(0);
        session().looking().set_stamp({}, "bricks.sheet.json");
        session().looking().set_ground(0);
        window_->commands().find("clothe")->action->trigger();
        QCOMPARE(QString::fromStdString(session().level().layers.back()->name), QStringLiteral("Art"));
        const auto& art = **session().level().layers.back()->tiles;
        QVERIFY(edging.holds(art.grid.at(cell_at(art, Frame::side, {0.25, 0, -0.25})).number()));
        settle();
        keep_picture("clothed");
    }

    void cells_go_into_an_assembly_and_are_painted_in_it() {
        start(Frame::side);
        key(Qt::Key_U);
        drag(Vec3(-2.25, 0, 0.75), Vec3(-0.75, 0, 0.75));
        key(Qt::Key_8);
        drag(Vec3(-2.25, 0, 1.25), Vec3(-0.75, 0, 0.25));
        QVERIFY(session().looking().picked_area());
        settle();
        keep_picture("tiles-picked");
        when_asked<QInputDialog>([](QInputDialog& dialog) {
            dialog.setTextValue("Deck");
            agree(dialog);
        });
        key(Qt::Key_G, Qt::ControlModifier | Qt::AltModifier);
        QCOMPARE(session().project().assemblies.size(), size_t(1));
        QVERIFY(!session().looking().picked_area());
        QCOMPARE(tile_at(-1.25, 0.75), -1); // in the layer no more, and still walked on
        settle();
        QVERIFY(session().built().check->ground->ledges.size() >= 2);
        // Caught by its cells and dragged.
        window_->use_tool("select");
        session().select({});
        click(Vec3(-1.25, 0, 0.75));
        QVERIFY(session().selected() && session().selected()->assembly());
        const ItemId place = session().selection()[0];
        const double before = session().selected()->assembly()->place.at.x;
        drag(Vec3(-1.25, 0, 0.75), Vec3(0.75, 0, 0.75));
        QCOMPARE(find_item(session().stored_level(), place)->assembly()->place.at.x, before + 2);
        settle();
        keep_picture("tiles-assembly");
        // Opened by itself it is a layer that is painted on.
        key(Qt::Key_Return, Qt::AltModifier);
        settle();
        QVERIFY(session().tile_layer());
        const Box3 box = box_of(session().level());
        key(Qt::Key_U);
        // The block in the hand has an empty row above its tiles.
        drag(Vec3(box.low.x + 0.25, 0, box.high.z + 0.75), Vec3(box.low.x + 0.75, 0, box.high.z + 0.75));
        keep_picture("tiles-opened");
        key(Qt::Key_Backspace, Qt::AltModifier);
        settle();
        QCOMPARE(box_of(session().level()).high.z, 1.5);
        undo();
        undo();
    }

    void a_plan_level_is_painted_and_checked() {
        start(Frame::plan);
        key(Qt::Key_U);
        drag(Vec3(0.5, 6.5, 0), Vec3(0.5, -6.5, 0)); // a wall through the room
        session().go_to(Stage::populate);
        window_->use_tool("place goal");
        click(Vec3(6.5, 0.5, 0));
        settle();
        QCOMPARE(elements_of(session().level(), Role::goal).size(), size_t(1));
        QCOMPARE(goal_reached(), check::Reached::no);
        keep_picture("plan-no");
        session().go_to(Stage::block_out);
        key(Qt::Key_Z);
        drag(Vec3(0.5, 0.5, 0), Vec3(0.5, 0.5, 0)); // a doorway
        settle();
        QCOMPARE(goal_reached(), check::Reached::yes);
        QVERIFY(session().built().check->spans.empty());
        keep_picture("plan-yes");
    }
};

RUBBLE_TEST(TilesJourneyTest)
#include "tiles_journey_test.moc"
