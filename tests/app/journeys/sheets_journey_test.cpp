#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QMenu>
#include <QMessageBox>
#include <QTabWidget>
#include <QToolButton>
#include <QTreeWidget>

#include "app/tiles_driver.h"
#include "edit/layer_scheme.h"
#include "edit/sheet_pictures.h"
#include "test_program.h"
#include "tiles/sheet_dialog.h"
#include "tiles/sheet_palette.h"

using namespace rubble;
using namespace rubble::app;

/// Sheets of unequal pictures, sheets that change on disk, layers and their scheme, painting by keys and by
/// chance.
class SheetsJourneyTest : public TilesDriver {
    Q_OBJECT

    /// Three things of different sizes on an empty sheet.
    QString picture_of_things(int shift = 0) {
        Picture picture;
        picture.width = 96, picture.height = 64;
        picture.rgba.assign(size_t(picture.width) * size_t(picture.height) * 4, 0);
        const auto fill = [&](int left, int top, int w, int h) {
            for (int y = top; y < top + h; ++y)
                for (int x = left; x < left + w; ++x) {
                    uint8_t* pixel = &picture.rgba[(size_t(y) * size_t(picture.width) + size_t(x)) * 4];
                    pixel[0] = uint8_t(40 + left), pixel[1] = 120, pixel[2] = 60, pixel[3] = 255;
                }
        };
        fill(2, 2, 32, 48), fill(40 + shift, 4, 20, 16), fill(66, 10, 24, 40);
        const QString path = folder_.path() + "/things.png";
        return io::save_picture(picture, path.toStdString()) ? path : QString();
    }
    void bring_in(const QString& picture) {
        when_asked<SheetDialog>([](SheetDialog& dialog) { agree(dialog); });
        drop(picture);
        QTRY_COMPARE(session().project().sheets.size(), size_t(1));
    }
    void saved_side_level(const char* name) {
        start(Frame::side);
        QVERIFY(session().files().save(folder_.path() + "/" + name + ".level.json"));
    }
    void choose_in_layer_menu(const QString& text) {
        auto* more = named<QToolButton>("More for the chosen layer");
        QVERIFY(more && more->menu());
        emit more->menu()->aboutToShow();
        for (QAction* action : more->menu()->actions())
            if (action->text() == text) return action->trigger();
        QFAIL(qPrintable(text));
    }

private slots:
    void unequal_pictures_are_placed_freely_and_collide() {
        saved_side_level("things");
        when_asked<SheetDialog>([&](SheetDialog& dialog) {
            auto* way = dialog.findChild<QComboBox*>();
            QVERIFY(way && way->currentIndex() == 1); // seen from the picture
            QCOMPARE(dialog.sheet().tiles.size(), size_t(3));
            auto* sheet = dialog.findChild<SheetView*>();
            const double scale = std::floor(double(sheet->width()) / 96);
            QTest::mouseClick(sheet, Qt::LeftButton, {}, QPoint(int(10 * scale), int(20 * scale)));
            QCOMPARE(sheet->chosen_tiles(), std::vector<int>{0});
            for (QLineEdit* name : dialog.findChildren<QLineEdit*>())
                if (name->accessibleName() == "Name of the tile") {
                    name->setFocus();
                    name->selectAll();
                    QTest::keyClicks(name, "Cabinet");
                    QTest::keyClick(name, Qt::Key_Tab);
                }
            QCOMPARE(dialog.sheet().tile(0)->name, std::string("Cabinet"));
            keep_picture_of(dialog, "unequal-pictures");
            agree(dialog);
        });
        drop(picture_of_things());
        QTRY_COMPARE(session().project().sheets.size(), size_t(1));
        QVERIFY(edit::is_of_unequal_pictures(*session().project().sheets[0]));
        // It is taken into the hand in the tray, and placed where one clicks.
        session().looking().set_stamp({1, 1, {Tile(0)}}, "things.sheet.json");
        view().frame_all();
        key(Qt::Key_U);
        move_to(Vec3(3, 0, 0));
        keep_picture("picture-in-hand");
        click(Vec3(3, 0, 0));
        const auto placed = [&]() -> const Item* {
            const Item* found = nullptr;
            for_each_item(session().level(), [&](const Item& item, const Layer&) {
                if (item.picture()) found = &item;
            });
            return found;
        };
        QVERIFY(placed());
        QCOMPARE(placed()->title(), std::string("Cabinet"));
        QCOMPARE(placed()->picture()->size, Vec2(1, 1.5)); // at 32 pixels a metre
        QVERIFY(placed()->picture()->solid);
        settle();
        QVERIFY(session().built().check->ground->ledges.size() >= 2); // one stands on it
        // Selected, dragged, and back again.
        window_->use_tool("select");
        click(Vec3(3, 0, 0.75));
        QCOMPARE(session().selection().size(), size_t(1));
        keep_picture("picture-selected");
        const Vec3 before = placed()->picture()->at;
        drag(Vec3(3, 0, 0.75), Vec3(5, 0, 1.75));
        QVERIFY(placed()->picture()->at.x > before.x + 1 && placed()->picture()->at.z > before.z + 0.5);
        QCOMPARE(placed()->picture()->at.y, before.y);
        undo();
        QCOMPARE(placed()->picture()->at, before);
        // What it is, in the facts.
        enter("Width of the picture", "2");
        QCOMPARE(placed()->picture()->size.x, 2.0);
        auto* repeats = named<QCheckBox>("Repeats to both sides");
        QVERIFY(repeats);
        QTest::mouseClick(repeats, Qt::LeftButton);
        QVERIFY(placed()->picture()->repeats_right);
        settle();
        keep_picture("picture-repeats");
        // Saved and opened again it is the same.
        const Level level = session().stored_level();
        QVERIFY(session().files().save({}));
        QVERIFY(session().files().open(folder_.path() + "/things.level.json"));
        QVERIFY(placed() && placed()->picture()->sheet);
        QCOMPARE(placed()->picture()->size.x, 2.0);
    }

    void saved_into_another_folder_a_level_keeps_its_sheets() {
        saved_side_level("first-place");
        bring_in(grey_picture());
        session().looking().set_stamp({}, "bricks.sheet.json");
        window_->commands().find("tile-layer")->action->trigger();
        QVERIFY(session().files().save({}));
        QVERIFY(QDir(folder_.path()).mkpath("elsewhere"));
        const QString file = folder_.path() + "/elsewhere/second.level.json";
        QVERIFY(session().files().save(file));
        QVERIFY(session().files().open(file));
        QCOMPARE(session().project().sheets.size(), size_t(1));
        const TileLayer& layer = **session().level().layers.back()->tiles;
        QCOMPARE(QString::fromStdString(layer.sheet_file), QStringLiteral("../bricks.sheet.json"));
        QVERIFY(layer.sheet && layer.sheet->picture);
    }

    void a_sheet_that_changes_on_disk_is_brought_in_again() {
        saved_side_level("watched");
        bring_in(picture_of_things());
        const auto box = [&] { return session().project().sheets[0]->tile(1)->box_px.value(); };
        QCOMPARE(box()[0], 40);
        QVERIFY(!picture_of_things(3).isEmpty());
        QTRY_COMPARE_WITH_TIMEOUT(box()[0], 43, 60000);
        QCOMPARE(session().project().sheets[0]->tiles.size(), size_t(3));
        undo();
        QCOMPARE(box()[0], 40);
    }

    void cells_are_painted_by_keys_alone() {
        start(Frame::side);
        key(Qt::Key_U);
        for (int i = 0; i < 3; ++i) key(Qt::Key_Right);
        key(Qt::Key_Up);
        key(Qt::Key_Return);
        const Vec3 place = place_of(tiles(), Frame::side, {3, 0}); // rows are counted anew from the top
        QCOMPARE(tiles().grid.at(cell_at(tiles(), Frame::side, place)).number(), 0);
        QVERIFY(tiles().grid.area().rows() == 5);
        undo();
        QVERIFY(tiles().grid.area().rows() == 4);
        // From one end to the other.
        key(Qt::Key_J);
        key(Qt::Key_Return);
        for (int i = 0; i < 4; ++i) key(Qt::Key_Up);
        key(Qt::Key_Return);
        QVERIFY(tiles().grid.area().rows() > 4);
        QVERIFY(!session().documents().undo_text().isEmpty());
    }

    void tiles_are_strewn_by_chance() {
        saved_side_level("strewn");
        bring_in(grey_picture());
        session().looking().set_stamp({2, 1, {Tile(0), Tile(1)}}, "bricks.sheet.json");
        window_->commands().find("tile-layer")->action->trigger();
        session().looking().set_stamp({2, 1, {Tile(0), Tile(1)}}, "bricks.sheet.json");
        auto* strews = window_->findChild<SheetPalette*>()->findChild<QCheckBox*>();
        QVERIFY(strews && strews->isVisible());
        QTest::mouseClick(strews, Qt::LeftButton);
        auto* weight = named<QDoubleSpinBox>("How often tile 1 comes");
        QVERIFY(weight && weight->isVisible());
        QCoreApplication::processEvents();
        keep_picture("strewn-weights");
        view().frame_all();
        view().setFocus();
        key(Qt::Key_J);
        drag(Vec3(-5.25, 0, 6.25), Vec3(5.25, 0, 1.25));
        std::map<int, int> counts;
        tiles().grid.for_each_tile(tiles().grid.area(), [&](CellAt, Tile tile) { ++counts[tile.number()]; });
        QVERIFY(counts[0] > 40 && counts[1] > 40);
        undo();
        weight->setValue(0);
        key(Qt::Key_J);
        drag(Vec3(-5.25, 0, 6.25), Vec3(5.25, 0, 1.25));
        tiles().grid.for_each_tile(tiles().grid.area(),
                                   [&](CellAt, Tile tile) { QCOMPARE(tile.number(), 0); });
    }

    void outlines_are_typed_copied_and_made_ramps() {
        saved_side_level("typed");
        bring_in(grey_picture());
        bool done = false;
        when_asked<SheetDialog>([&](SheetDialog& dialog) {
            const auto button = [&](const QString& text) -> QPushButton* {
                for (QPushButton* one : dialog.findChildren<QPushButton*>())
                    if (one->text().remove('&') == text) return one;
                return nullptr;
            };
            auto* sheet = dialog.findChild<SheetView*>();
            auto* outline = dialog.findChild<OutlineView*>();
            const double cell = 16 * std::floor(double(sheet->width()) / test::grey()->picture->width);
            const auto choose = [&](int number) {
                QTest::mouseClick(sheet, Qt::LeftButton, {},
                                  QPoint(int(cell * (number % 8 + 0.5)), int(cell * (number / 8 + 0.5))));
            };
            // Steps become a ramp.
            choose(12);
            QVERIFY(button("Stairs as a ramp"));
            QTest::mouseClick(button("Outline from the picture"), Qt::LeftButton);
            QVERIFY(button("Stairs as a ramp")->isEnabled());
            QTest::mouseClick(button("Stairs as a ramp"), Qt::LeftButton);
            QCOMPARE(dialog.sheet().tile(12)->outline.size(), size_t(3));
            QVERIFY(!button("Stairs as a ramp")->isEnabled());
            // Copied to another tile.
            QTest::mouseClick(button("Copy"), Qt::LeftButton);
            choose(2);
            QTest::mouseClick(button("Give it"), Qt::LeftButton);
            QCOMPARE(dialog.sheet().tile(2)->outline, dialog.sheet().tile(12)->outline);
            // A corner is caught and typed.
            const QRectF all = outline->rect();
            const double half = std::min(all.width(), all.height()) / 2;
            const Vec2 corner = outline->outline()[0];
            QTest::mouseClick(outline, Qt::LeftButton, {},
                              QPointF(all.center().x() + (corner.x - 0.5) * half,
                                      all.center().y() - (corner.y - 0.5) * half)
                                  .toPoint());
            QVERIFY(outline->corner() >= 0);
            for (QDoubleSpinBox* box : dialog.findChildren<QDoubleSpinBox*>())
                if (box->accessibleName() == "Corner, from below") {
                    QVERIFY(box->isEnabled());
                    box->setFocus();
                    box->selectAll();
                    QTest::keyClicks(box, "4");
                    QTest::keyClick(box, Qt::Key_Return);
                }
            QCOMPARE(dialog.sheet().tile(2)->outline[size_t(outline->corner())].y, 4.0 / 16);
            keep_picture_of(dialog, "typed-corner");
            done = true;
            agree(dialog);
        });
        window_->commands().find("edit-sheet")->action->trigger();
        QVERIFY(done);
    }

    void layers_change_their_order_and_become_the_projects() {
        start(Frame::side);
        window_->commands().find("tile-layer")->action->trigger();
        const LayerId made = session().level().layers.back()->id;
        const size_t place = session().level().layers.size() - 1;
        choose_in_layer_menu("Move it up");
        QCOMPARE(session().level().layers[place - 1]->id, made);
        undo();
        QCOMPARE(session().level().layers[place]->id, made);
        window_->commands().find("layers-to-project")->action->trigger();
        QCOMPARE(session().project().scheme.size(), size_t(2));
        // Another level of the project, which lacks one of them, is asked.
        Level level = session().stored_level();
        level.layers.pop_back();
        session().apply(level, "Without it");
        QVERIFY(!edit::scheme_changes(session().project(), session().stored_level()).empty());
        when_asked<QMessageBox>([&](QMessageBox& box) {
            QVERIFY(box.text().contains("comes, bare"));
            QTest::mouseClick(box.button(QMessageBox::Apply), Qt::LeftButton);
        });
        window_->commands().find("layers-from-project")->action->trigger();
        QVERIFY(edit::scheme_changes(session().project(), session().stored_level()).empty());
        QCOMPARE(session().level().layers.size(), place + 1);
    }

    void a_gap_that_is_too_wide_is_mended_with_cells() {
        start(Frame::side);
        Level level = session().stored_level();
        Level gap = test::tile_level({"##########       ##########", "##########       ##########"}, 1);
        level.layers[0] = gap.layers[0];
        level.layers.back() = gap.layers.back();
        level = test::with_element(level, "s1", "start", {2, 0, 2});
        session().apply(test::with_element(level, "g1", "goal", {24, 0, 2}), "A gap");
        view().frame_all();
        session().go_to(Stage::check);
        settle();
        QCOMPARE(goal_reached(), check::Reached::no);
        session().select({{"g1"}});
        QCoreApplication::processEvents();
        keep_picture("mends-of-tiles");
        press("Try");
        settle();
        QCOMPARE(goal_reached(), check::Reached::yes);
        undo();
        settle();
        QCOMPARE(goal_reached(), check::Reached::no);
    }

    void the_demo_sheets_say_all_that_they_can() {
        QVERIFY(window_->open_path(RUBBLE_SOURCE_DIR
                                   "/demo-data/packing-hall/levels/low-tide-rooftops.level.json"));
        settle();
        session().looking().set_stamp({}, "sheets/rooftops.sheet.json");
        bool done = false;
        when_asked<SheetDialog>([&](SheetDialog& dialog) {
            auto* sheet = dialog.findChild<SheetView*>();
            for (const auto& [number, tile] : dialog.sheet().tiles)
                if (tile.name == "Gentle roof up, low") sheet->choose({{tile.at[0], tile.at[1]}});
            QCOMPARE(sheet->chosen_tiles().size(), size_t(1));
            QCoreApplication::processEvents();
            keep_picture_of(dialog, "demo-outline");
            auto* tabs = dialog.findChild<QTabWidget*>();
            tabs->setCurrentIndex(1);
            QCoreApplication::processEvents();
            bool complete = false;
            for (QLabel* label : dialog.findChildren<QLabel*>()) complete |= label->text().contains("All 47");
            QVERIFY(complete);
            keep_picture_of(dialog, "demo-edging");
            done = true;
            agree(dialog);
        });
        window_->commands().find("edit-sheet")->action->trigger();
        QVERIFY(done);
    }

    void a_plan_level_begins_all_wall_and_is_walked_by_cells() {
        when_asked<QDialog>([](QDialog& dialog) {
            auto* wall = dialog.findChild<QCheckBox*>();
            auto* plan = dialog.findChild<QToolButton*>("frame-plan");
            QVERIFY(wall && plan);
            QTest::mouseClick(wall, Qt::LeftButton, {}, QPoint(8, wall->height() / 2));
            QVERIFY(wall->isChecked());
            QTest::mouseClick(plan, Qt::LeftButton);
        });
        key(Qt::Key_N, Qt::ControlModifier);
        QCOMPARE(session().level().frame, Frame::plan);
        QCOMPARE(tile_at(0.5, 0.5), 0);
        QCOMPARE(tile_at(-5.5, 0.5), -1); // where the start stands
        view().frame_all();
        take_focus();
        settle();
        key(Qt::Key_Z);
        drag(Vec3(-5.5, 0.5, 0), Vec3(4.5, 0.5, 0)); // carved
        QCOMPARE(tile_at(2.5, 0.5), -1);
        session().select({});
        QCoreApplication::processEvents();
        auto* by_cells = named<QCheckBox>("Walked from cell to cell");
        QVERIFY(by_cells && by_cells->isVisible());
        QTest::mouseClick(by_cells, Qt::LeftButton, {}, QPoint(8, by_cells->height() / 2));
        QCOMPARE(session().level().walked, Walked::by_cells);
        settle();
        // What it is as a maze stands in the facts once there is a goal.
        session().go_to(Stage::populate);
        window_->use_tool("place goal");
        click(Vec3(4.5, 0.5, 0));
        session().select({});
        session().go_to(Stage::check);
        settle();
        QVERIFY(session().built().check->maze);
        QCOMPARE(session().built().check->maze->shortest.length_m,
                 11.0); // from the cell below the carved row
        QCoreApplication::processEvents();
        keep_picture("carved-maze");
    }
};

RUBBLE_TEST(SheetsJourneyTest)
#include "sheets_journey_test.moc"
