#include <QComboBox>
#include <QDoubleSpinBox>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QTableWidget>

#include "app/tiles_driver.h"
#include "build/joints.h"
#include "build/piece_body.h"
#include "commands/assemblies.h"
#include "commands/pieces.h"
#include "edit/pieces.h"
#include "io/export_formats.h"
#include "io/kit_file.h"
#include "io/model_writer.h"
#include "io/text_file.h"
#include "kits/bring_in_dialog.h"
#include "kits/piece_dialog.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// Pieces of kits, from models that are dropped on the window to a passage that is walked and handed on.
class KitsJourneyTest : public TilesDriver {
    Q_OBJECT

    static ItemPtr box(int id, const Vec3& low, const Vec3& high, Effect effect) {
        Brush brush;
        brush.effect = effect;
        brush.place.at = {(low.x + high.x) / 2, (low.y + high.y) / 2, low.z};
        brush.size = high - low;
        return ItemPtr(Item{{"b" + std::to_string(id)}, {}, false, std::move(brush), {}});
    }
    /// A passage of one cell of 5 × 5 × 4 m, open to the sides named (l, r, n, a), as a file of a modelling
    /// program.
    QString model(const QString& name, const std::string& open) {
        std::vector<ItemPtr> items{box(0, {0, 0, -0.2}, {5, 5, 3.8}, Effect::fill),
                                   box(1, {0.25, 0.25, 0}, {4.75, 4.75, 3.6}, Effect::cut)};
        for (const char side : open) {
            Vec3 low(0.25, 0.25, 0), high(4.75, 4.75, 3.6);
            (side == 'l'   ? low.x
             : side == 'n' ? low.y
             : side == 'r' ? high.x
                           : high.y) = side == 'l' || side == 'n' ? 0 : 5;
            items.push_back(box(int(items.size()), low, high, Effect::cut));
        }
        Piece piece;
        piece.items = ItemList(items);
        const auto bytes = io::glb_of(Project{}, build::piece_body(piece, {}).model, name.toStdString());
        const QString path = folder_.path() + "/models/" + name + ".glb";
        QDir(folder_.path()).mkpath("models");
        return bytes && io::write_file(path.toStdString(), *bytes) ? path : QString();
    }
    std::vector<const Item*> pieces() {
        std::vector<const Item*> out;
        for_each_item(session().stored_level(), [&](const Item& item, const Layer&) {
            if (item.piece()) out.push_back(&item);
        });
        return out;
    }
    /// An empty Space level in a file, so that its kit has a place; with nothing on the ground.
    void begin() {
        start(Frame::space);
        Level level = session().stored_level();
        std::vector<ItemId> all;
        for_each_item(level, [&](const Item& item, const Layer&) { all.push_back(item.id); });
        session().apply(edit::without(level, all), "Empty");
        QVERIFY(session().files().save(folder_.path() + "/store.level.json"));
        settle();
    }
    void bring_in_passages() {
        for (const auto& [name, open] : {std::pair{"straight", "lr"}, {"turn", "ln"}, {"dead_end", "l"}})
            QVERIFY(!model(name, open).isEmpty());
        when_asked<BringInDialog>([&](BringInDialog& dialog) {
            QTRY_COMPARE_WITH_TIMEOUT(dialog.pieces().size(), size_t(3), 60000);
            dialog.findChild<QComboBox*>()->setEditText("Hall");
            auto* table = dialog.findChild<QTableWidget*>();
            QVERIFY(table);
            table->selectRow(0);
            keep_picture_of(dialog, "bring-in");
            agree(dialog);
        });
        drop(folder_.path() + "/models");
        QTRY_COMPARE(session().project().kits.size(), size_t(1));
    }
    void take(const QString& piece) {
        auto* list = named<QListWidget>("Pieces");
        QVERIFY(list);
        for (int i = 0; i < list->count(); ++i)
            if (list->item(i)->text() == piece) {
                list->scrollToItem(list->item(i));
                return QTest::mouseClick(list->viewport(), Qt::LeftButton, {},
                                         list->visualItemRect(list->item(i)).center());
            }
        QFAIL(qPrintable(piece));
    }

private slots:
    void models_come_in_as_pieces_and_stay_after_saving() {
        begin();
        bring_in_passages();
        const Kit& kit = *session().project().kits[0];
        QCOMPARE(kit.name, std::string("Hall"));
        QVERIFY(QFileInfo::exists(folder_.path() + "/kits/hall/straight.glb"));
        for (const auto& piece : kit.pieces) {
            QVERIFY(piece->body);
            QCOMPARE(piece->collision.kind, PieceCollisionKind::faces); // one goes through them
        }
        QCOMPARE(kit.piece("straight")->joints.size(), size_t(2));
        QCOMPARE(kit.piece("dead_end")->joints.size(), size_t(1));
        QVERIFY(session().files().save({}));
        QVERIFY(QFileInfo::exists(folder_.path() + "/kits/hall/kit.json"));
    }

    void a_passage_is_laid_by_joints_walked_checked_and_exported() {
        begin();
        bring_in_passages();
        take("straight");
        view().frame_all();
        keep_picture("palette");
        // The first where one clicks, two more by a drag along the ground.
        plan().setFocus();
        click_in(plan(), {2.5, 2.5, 0});
        settle();
        QCOMPARE(pieces().size(), size_t(1));
        QCOMPARE(pieces()[0]->piece()->place.at, Vec3(0, 0, 0));
        drag(plan(), at(plan(), {7.5, 2.5, 0}), at(plan(), {12.5, 2.5, 0}));
        settle();
        QCOMPARE(pieces().size(), size_t(3));
        // A turn at its end: it turns itself so that its joint meets the open one.
        take("turn");
        click_in(plan(), {17.5, 2.5, 0});
        settle();
        const auto joints = [&] {
            return edit::JointPlaces(edit::joints_of(session().project(), session().stored_level()));
        };
        const auto open = [&] {
            const auto places = joints();
            return std::count_if(places.all().begin(), places.all().end(),
                                 [&](const auto& joint) { return !places.opposite(joint); });
        };
        QCOMPARE(open(), 2);
        take("dead_end");
        click_in(plan(), {-2.5, 2.5, 0});
        const Vec3 beyond =
            pieces()[3]->piece()->place.turn_deg == 0 ? Vec3(17.5, -2.5, 0) : Vec3(17.5, 7.5, 0);
        click_in(plan(), beyond);
        settle();
        QCOMPARE(pieces().size(), size_t(6));
        QCOMPARE(open(), 0);
        for (const auto& finding : session().built().check->findings)
            QVERIFY2(finding.rule < check::RuleId::piece_missing, check::rule_of(finding.rule).key);
        // Start and goal at its ends: one gets there.
        Level level = session().stored_level();
        level = edit::with_item(level, 0,
                                Item{{"s"}, "Start", false, Element{"start", {-2.5, 2.5, 0}, 0, {}}, {}});
        level = edit::with_item(level, 0, Item{{"g"}, "Goal", false, Element{"goal", beyond, 0, {}}, {}});
        session().apply(level, "Start and goal");
        settle();
        QCOMPARE(goal_reached(), check::Reached::yes);
        view().frame_all();
        keep_picture("passage");
        const QString glb = folder_.path() + "/out.glb";
        QVERIFY(io::export_level(session().project(), session().stored_level(), glb.toStdString()));
        QVERIFY(QFileInfo(glb).size() > 5000);
        // What is moved goes by modules, and off them it says so and is put right.
        window_->use_tool("select");
        session().select({pieces()[0]->id});
        settle();
        enter("Origin, x", "1.25");
        settle();
        QVERIFY(
            std::any_of(session().built().check->findings.begin(), session().built().check->findings.end(),
                        [](const auto& finding) { return finding.rule == check::RuleId::piece_off_module; }));
        keep_picture("off-module");
        press("Put onto the module");
        QCOMPARE(pieces()[0]->piece()->place.at.x, 0.0);
        view().setFocus();
        key(Qt::Key_Right);
        QCOMPARE(pieces()[0]->piece()->place.at.x, 5.0);
        undo();
        // Saved and opened again it is the same.
        const Level before = session().stored_level();
        QVERIFY(session().files().save({}));
        QVERIFY(session().files().open(folder_.path() + "/store.level.json"));
        settle();
        QCOMPARE(pieces().size(), size_t(6));
        for (const Item* item : pieces()) QVERIFY(item->piece()->piece && item->piece()->piece->body);
        QCOMPARE(goal_reached(), check::Reached::yes);
    }

    /// Dragged out of the tray a piece goes with the pointer and stands where it is dropped; what fitted
    /// where nobody points any more is not taken.
    void a_piece_is_dragged_out_of_the_tray() {
        begin();
        bring_in_passages();
        take("straight");
        QMimeData data;
        data.setData(QString::fromLatin1(tray_piece_format), {});
        const QPoint from = at(plan(), {-5, -5, 0}), to = at(plan(), {2.5, 2.5, 0});
        QDragEnterEvent enter(from, Qt::CopyAction, &data, Qt::LeftButton, {});
        QCoreApplication::sendEvent(&plan(), &enter);
        QVERIFY(enter.isAccepted());
        for (int i = 1; i <= 8; ++i) {
            QDragMoveEvent move(from + (to - from) * i / 8, Qt::CopyAction, &data, Qt::LeftButton, {});
            QCoreApplication::sendEvent(&plan(), &move);
            paint(plan());
        }
        QVERIFY(pieces().empty());
        QDropEvent dropped(to, Qt::CopyAction, &data, Qt::LeftButton, {});
        QCoreApplication::sendEvent(&plan(), &dropped);
        settle();
        QCOMPARE(pieces().size(), size_t(1));
        QCOMPARE(pieces()[0]->piece()->place.at, Vec3(0, 0, 0));
        move_to(plan(), at(plan(), {7.5, 2.5, 0}));
        paint(plan());
        QVERIFY(!session().looking().fitting().empty());
        QVERIFY(session().files().open(folder_.path() + "/store.level.json")); // without the kit
        window_->use_tool("select");
        window_->use_tool("piece");
        key(Qt::Key_Semicolon);
        settle();
    }

    void pieces_are_exchanged_in_their_place() {
        begin();
        bring_in_passages();
        take("straight");
        click_in(plan(), {2.5, 2.5, 0});
        click_in(plan(), {7.5, 2.5, 0});
        settle();
        window_->use_tool("select");
        session().select({pieces()[0]->id, pieces()[1]->id});
        settle();
        auto* choice = named<QComboBox>("Piece");
        QVERIFY(choice);
        const int turn = choice->findText("turn");
        QVERIFY(turn >= 0);
        choice->setCurrentIndex(turn);
        emit choice->activated(turn);
        settle();
        for (const Item* item : pieces()) QCOMPARE(item->piece()->piece_id, std::string("turn"));
        QCOMPARE(pieces()[1]->piece()->place.at, Vec3(5, 0, 0));
        undo();
        QCOMPARE(pieces()[0]->piece()->piece_id, std::string("straight"));
    }

    void an_assembly_is_made_once_and_changed_everywhere() {
        begin();
        draw_box(Qt::Key_B, {0, 0, 0}, {1, 1, 0}, "1");
        QCOMPARE(session().selection().size(), size_t(1));
        make_assembly(session(), *window_, "Winch");
        QCOMPARE(session().project().assemblies.size(), size_t(1));
        const ItemId first = session().selection().at(0);
        QVERIFY(session().selected()->assembly());
        session().looking().set_assembly(session().project().assemblies[0]->file);
        window_->use_tool("assembly");
        click_in(plan(), {4, 0, 0});
        settle();
        const ItemId second = session().selection().at(0);
        QVERIFY(second != first && session().selected()->assembly());
        const auto sizes = [&] {
            std::vector<double> out;
            for_each_item(session().stored_level(), [&](const Item& item, const Layer&) {
                if (item.brush()) out.push_back(item.brush()->size.z);
            });
            return out;
        };
        QCOMPARE(sizes(), (std::vector<double>{1, 1}));
        // Opened by itself and changed: both places are changed, in one step that can be taken back.
        window_->use_tool("select");
        session().select({first});
        open_assembly(session());
        settle();
        QVERIFY(!session().document().levels[session().documents().level_index()].assembly.empty());
        const Item* inner = nullptr;
        for_each_item(session().stored_level(), [&](const Item& item, const Layer&) { inner = &item; });
        QVERIFY(inner && inner->brush());
        session().select({inner->id});
        enter("Height", "2");
        keep_picture("assembly-opened");
        leave_assembly(session());
        settle();
        QCOMPARE(sizes(), (std::vector<double>{2, 2}));
        // In one place alone.
        const ItemId member = find_item(session().stored_level(), second)->assembly()->members[0]->id;
        session().select({member});
        QCoreApplication::processEvents();
        enter("Height", "3");
        QCOMPARE(sizes(), (std::vector<double>{2, 3}));
        QCOMPARE(find_item(session().stored_level(), second)->assembly()->own.size(), size_t(1));
        session().select({second});
        settle();
        keep_picture("own-values");
        QVERIFY(session().files().save({}));
        QVERIFY(session().files().open(folder_.path() + "/store.level.json"));
        settle();
        QCOMPARE(sizes(), (std::vector<double>{2, 3}));
        session().select({second});
        QCoreApplication::processEvents();
        press("Pass up");
        QCOMPARE(sizes(), (std::vector<double>{3, 3}));
        undo();
        QCOMPARE(sizes(), (std::vector<double>{2, 3}));
    }

    /// The first passage of boxes, a second from it with a wall taken away: what fits stands first in the
    /// tray.
    void brushes_become_pieces_that_stay_brushes() {
        begin();
        Level level = session().stored_level();
        level = edit::with_item(level, 0, *box(1, {0, 0, -0.25}, {5, 5, 3.75}, Effect::fill));
        level = edit::with_item(level, 0, *box(2, {0, 0.25, 0}, {4.75, 4.75, 3.5}, Effect::cut));
        session().apply(level, "Boxes");
        session().select({{"b1"}, {"b2"}});
        make_piece(session(), *window_, "Dead end");
        settle();
        QCOMPARE(pieces().size(), size_t(1));
        QCOMPARE(session().project().kits.size(), size_t(1));
        const auto kit = [&]() -> const Kit& { return *session().project().kits[0]; };
        QCOMPARE(kit().piece("dead_end")->joints.size(), size_t(1));
        copy_piece(session(), *window_, "Straight");
        settle();
        QCOMPARE(session().document().levels.back().piece, std::string("straight"));
        // Its wall is taken away by hand: the room is drawn longer.
        const Item* room = find_item(session().stored_level(), {"b2"});
        QVERIFY(room);
        session().select({room->id});
        enter("Length", "5");
        QCoreApplication::processEvents();
        session().select({room->id});
        enter("Middle of base, x", "0");
        settle();
        QCOMPARE(kit().piece("straight")->joints.size(), size_t(2));
        QCOMPARE(kit().piece("dead_end")->joints.size(), size_t(1));
        leave_assembly(session());
        settle();
        window_->use_tool("piece");
        for (const double off : {0.1, 0.0}) {
            move_to(plan(), at(plan(), {-2.5 - off, 2.5, 0}));
            paint(plan());
        }
        QVERIFY(!session().looking().fitting().empty());
        const auto before = session().looking().piece();
        key(Qt::Key_Semicolon);
        QVERIFY(session().looking().piece() != before || session().looking().fitting().size() == 1);
        click_in(plan(), {-2.5, 2.5, 0});
        settle();
        QCOMPARE(pieces().size(), size_t(2));
        const edit::JointPlaces joints(edit::joints_of(session().project(), session().stored_level()));
        QVERIFY(std::any_of(joints.all().begin(), joints.all().end(),
                            [&](const auto& joint) { return joints.opposite(joint); }));
        // Saved and opened again they are brushes still.
        QVERIFY(session().files().save({}));
        QVERIFY(session().files().open(folder_.path() + "/store.level.json"));
        settle();
        QCOMPARE(kit().piece("straight")->items.size(), size_t(2));
        session().select({pieces()[0]->id});
        open_piece(session());
        settle();
        QVERIFY(session().document().levels[session().documents().level_index()].is_part());
    }

    /// What a kit says of many pieces at once, and joints put right by hand.
    void pieces_are_told_what_they_are_met_as() {
        begin();
        bring_in_passages();
        take("straight");
        click_in(plan(), {2.5, 2.5, 0});
        when_asked<PieceDialog>([&](PieceDialog& dialog) {
            auto* list = dialog.findChild<QListWidget*>();
            list->selectAll();
            for (QComboBox* choice : dialog.findChildren<QComboBox*>())
                if (choice->accessibleName() == "Met as") {
                    choice->setCurrentIndex(1);
                    emit choice->activated(1);
                }
            for (QDoubleSpinBox* number : dialog.findChildren<QDoubleSpinBox*>())
                if (number->accessibleName() == "Overlap") number->setValue(0.1);
            list->setCurrentRow(0);
            auto* joints = dialog.findChild<QTableWidget*>();
            joints->item(0, 2)->setText("cellar");
            dialog.findChild<QPlainTextEdit*>()->setPlainText("dark\nechoes = 3");
            keep_picture_of(dialog, "piece-settings");
            agree(dialog);
        });
        edit_pieces(session(), *window_);
        settle();
        const Kit& kit = *session().project().kits[0];
        for (const auto& piece : kit.pieces) {
            QCOMPARE(piece->collision.kind, PieceCollisionKind::box);
            QCOMPARE(piece->body->matter.size(), size_t(1));
            QCOMPARE(piece->overlap_m, 0.1);
        }
        QCOMPARE(kit.pieces[0]->joints[0].kind, std::string("cellar"));
        QVERIFY(kit.pieces[0]->joints_by_hand);
        QCOMPARE(kit.pieces[0]->values, (Extra{{"dark", "true"}, {"echoes", "3"}}));
        QVERIFY(
            std::any_of(session().built().check->findings.begin(), session().built().check->findings.end(),
                        [](const auto& finding) { return finding.rule == check::RuleId::opening_closed; }));
        view().set_mode(ViewMode::collision);
        keep_picture("met-as");
        view().set_mode(ViewMode::plain);
    }

    /// Another program writes a piece's file: it is brought in again, and what no longer fits is told.
    void a_model_changed_on_disk_is_brought_in_again() {
        begin();
        bring_in_passages();
        take("straight");
        click_in(plan(), {2.5, 2.5, 0});
        QVERIFY(session().files().save({}));
        const auto other = io::read_file((folder_.path() + "/kits/hall/turn.glb").toStdString());
        QVERIFY(other && io::write_file((folder_.path() + "/kits/hall/straight.glb").toStdString(), *other));
        const auto straight = [&] { return session().project().kits[0]->piece("straight"); };
        const auto looks = [&](ModuleSide side) {
            const auto& joints = straight()->joints;
            return std::any_of(joints.begin(), joints.end(),
                               [&](const Joint& joint) { return joint.side == side; });
        };
        QTRY_VERIFY(looks(ModuleSide::near));
        QCOMPARE(pieces()[0]->piece()->piece, straight());
        undo();
        QVERIFY(!looks(ModuleSide::near));
    }

    /// While an assembly is open by itself its level is seen around it, and the claims that a change would
    /// break are named at once.
    void what_a_change_of_a_part_breaks_is_said() {
        begin();
        Level level = session().stored_level();
        const auto put = [&](Item item) { level = edit::with_item(level, 0, std::move(item)); };
        put(*box(1, {-8, -2, -1}, {-4, 2, 0}, Effect::fill));
        put(*box(2, {4, -2, -1}, {8, 2, 0}, Effect::fill));
        put(*box(3, {-4, -1, -1}, {4, 1, 0}, Effect::fill));
        put({{"s"}, "Start", false, Element{"start", {-6, 0, 0}, 0, {}}, {}});
        put({{"g"}, "Goal", false, Element{"goal", {6, 0, 0}, 0, {}}, {}});
        Claim claim;
        claim.id = {"c"}, claim.name = "Over the deck", claim.kind = Claim::Kind::reaches;
        claim.from = {"s"}, claim.to = {"g"};
        session().apply(edit::with_claim(level, claim), "Deck");
        session().select({{"b3"}});
        make_assembly(session(), *window_, "Deck");
        settle();
        QCOMPARE(goal_reached(), check::Reached::yes);
        open_assembly(session());
        settle();
        const auto effects = [&]() -> const PartEffects& { return session().part_effects(); };
        QTRY_VERIFY_WITH_TIMEOUT(effects().judged, 60000);
        QCOMPARE(effects().places, 1);
        QCOMPARE(effects().levels, 1);
        QVERIFY(effects().broken.empty());
        for (const auto& finding : session().built().check->findings) // nobody misses a start in a part
            QVERIFY(finding.rule != check::RuleId::start_none && finding.rule != check::RuleId::goal_none);
        keep_picture("part-around");
        session().select({{"b3"}});
        enter("Length", "1");
        QTRY_COMPARE_WITH_TIMEOUT(effects().broken.size(), size_t(1), 60000);
        QVERIFY(effects().broken[0].name.startsWith("Over the deck"));
        session().select({});
        settle();
        keep_picture("part-breaks");
        press("Over the deck"); // leads to the level
        settle();
        QVERIFY(!session().level().part);
        QCOMPARE(session().stage(), Stage::check);
        QCOMPARE(session().built().check->claims.at(0).state, check::ClaimState::fails);
        undo();
        settle();
        QCOMPARE(session().built().check->claims.at(0).state, check::ClaimState::holds);
    }

    void a_kit_that_is_gone_leaves_stand_ins_and_loses_nothing() {
        begin();
        bring_in_passages();
        take("straight");
        click_in(plan(), {2.5, 2.5, 0});
        QVERIFY(session().files().save({}));
        QVERIFY(QFile::rename(folder_.path() + "/kits", folder_.path() + "/elsewhere"));
        QVERIFY(session().files().open(folder_.path() + "/store.level.json"));
        settle();
        QCOMPARE(pieces().size(), size_t(1));
        QVERIFY(!pieces()[0]->piece()->piece);
        QVERIFY(
            std::any_of(session().built().check->findings.begin(), session().built().check->findings.end(),
                        [](const auto& finding) { return finding.rule == check::RuleId::piece_missing; }));
        QVERIFY(session().files().save(folder_.path() + "/again.level.json"));
        const auto text = io::read_file((folder_.path() + "/again.level.json").toStdString());
        QVERIFY(text && text->find("kits/hall/kit.json") != std::string::npos &&
                text->find("\"straight\"") != std::string::npos);
    }
};

RUBBLE_TEST(KitsJourneyTest)
#include "kits_journey_test.moc"
