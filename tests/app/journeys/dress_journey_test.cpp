#include "app/window_driver.h"

#include <QBuffer>
#include <QDropEvent>
#include <QListWidget>
#include <QMimeData>
#include <QTabBar>

#include "build/piece_body.h"
#include "commands/dressing.h"
#include "core/random.h"
#include "dressing/prints_dialog.h"
#include "edit/brushes.h"
#include "edit/dressing.h"
#include "edit/kits.h"
#include "kits/strew_dialog.h"
#include "parcels/parcel_dialog.h"
#include "test_program.h"
#include "tools/item_handles.h"

using namespace rubble;
using namespace rubble::app;

/// Faces dressed in the real window with pictures that are brought in.
class DressJourneyTest : public WindowDriver {
    Q_OBJECT

    /// A picture of one colour but for a darker edge on the left, so that only `plain` ones meet.
    QString picture(const QString& name, const QColor& color, bool plain = true) {
        QImage image(64, 64, QImage::Format_RGB32);
        image.fill(color);
        if (!plain)
            for (int y = 0; y < 64; ++y)
                for (int x = 0; x < 16; ++x) image.setPixelColor(x, y, color.darker(300));
        const QString path = files_.filePath(name);
        image.save(path);
        return path;
    }
    void bring_in(const QString& path) {
        answer_file_dialog(path);
        window_->commands().find("material-pictures")->action->trigger();
    }
    void give(const QString& material) {
        auto* list = named<QListWidget>("Materials");
        QVERIFY(list);
        for (int row = 0; row < list->count(); ++row)
            if (list->item(row)->text().startsWith(material)) {
                list->scrollToItem(list->item(row));
                QTest::mouseClick(list->viewport(), Qt::LeftButton, {},
                                  list->visualItemRect(list->item(row)).center());
                return;
            }
        QFAIL(qPrintable("no material " + material));
    }
    QColor shown_at(const Vec3& place) {
        paint(view());
        const QImage image = view().grabFramebuffer();
        return image.pixelColor(at(place) * image.devicePixelRatio());
    }
    QColor shown_from_above(const Vec3& place) {
        paint(plan());
        const QImage image = plan().grabFramebuffer();
        return image.pixelColor(at(plan(), place) * image.devicePixelRatio());
    }
    const Brush& brush(const ItemId& id) { return *find_item(session().level(), id)->brush(); }
    /// Two upright sides of a brush that are seen and meet at an edge.
    std::pair<BoxSide, BoxSide> seen_sides(const ItemId& id) {
        std::vector<BoxSide> out;
        for (const BoxSide side : {BoxSide::left, BoxSide::right, BoxSide::near, BoxSide::away})
            if (glm::dot(edit::outward(brush(id), side),
                         view().camera().eye() - edit::middle_of(brush(id), side)) > 1)
                out.push_back(side);
        return {out.at(0), out.at(1)};
    }

    /// The project gets a kit with a prop, a box of a size on the middle of its base.
    void give_prop(const Vec3& size) {
        Brush brush;
        brush.size = size;
        Piece piece;
        piece.id = "tub", piece.name = "Tub", piece.seat = PieceSeat::free, piece.size_m = size;
        piece.collision.kind = PieceCollisionKind::box;
        piece.items = ItemList(std::vector<ItemPtr>{ItemPtr(Item{{"b"}, {}, false, brush, {}})});
        Kit kit;
        kit.file = "kits/props/kit.json", kit.name = "Props";
        kit.pieces.push_back(std::make_shared<const Piece>(std::move(piece)));
        session().apply(edit::with_kit(session().project(), build::with_brush_bodies(std::move(kit))), "Kit");
    }
    void take_prop() {
        auto* offers = named<QTabBar>("What is dressed with");
        QVERIFY(offers);
        offers->setCurrentIndex(1);
        QTRY_VERIFY(named<QListWidget>("Pieces") && named<QListWidget>("Pieces")->count() == 1);
        auto* list = named<QListWidget>("Pieces");
        QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(0)).center());
        view().setFocus();
    }
    const PlacedPiece& prop(const ItemId& id) { return *find_item(session().level(), id)->piece(); }
    /// Does something with the next dialog of a kind once it is there.
    template <class Dialog> void with_dialog(const std::function<bool(Dialog&)>& act) {
        auto* answer = new QTimer(this);
        connect(answer, &QTimer::timeout, this, [answer, act] {
            auto* dialog = qobject_cast<Dialog*>(QApplication::activeModalWidget());
            if (dialog && act(*dialog)) answer->deleteLater();
        });
        answer->start(50);
    }
    void command(const char* id) {
        window_->commands().find(id)->action->trigger();
        QCoreApplication::processEvents();
    }

    QTemporaryDir files_;

private slots:
    void a_prop_is_put_down_carried_sized_and_set_down() {
        draw_box(Qt::Key_B, {2, 2, 0}, {5, 5, 0}, "1");
        const ItemId box = session().selection().at(0);
        give_prop({0.8, 0.8, 0.5});
        key(Qt::Key_F4);
        session().select({});
        settle();
        take_prop();
        // A drag turns it, a click alone puts it down as the one before stood.
        drag({-3, -3, 0}, {-3, 0, 0});
        QCOMPARE(session().selection().size(), size_t(1));
        const ItemId first = session().selection()[0];
        QVERIFY(std::abs(prop(first).place.at.z) < 1e-6);
        QVERIFY(glm::length(flat(prop(first).place.at) - Vec2(-3, -3)) < 0.1);
        QCOMPARE(prop(first).place.turn_deg, 90.0);
        settle();
        click({-1, -3, 0});
        const ItemId second = session().selection()[0];
        QVERIFY(second != first);
        QCOMPARE(prop(second).place.turn_deg, 90.0);
        settle();
        keep_picture("props");
        // Carried onto the box it stands on that.
        key(Qt::Key_Q);
        settle();
        drag({-1, -3, 0.5}, {3.5, 3.5, 1});
        QVERIFY(std::abs(prop(second).place.at.z - 1) < 1e-6);
        QVERIFY(prop(second).place.at.x > 2 && prop(second).place.at.y > 2);
        settle();
        enter("Sized", "2");
        QCOMPARE(prop(second).sized, 2.0);
        settle();
        // Raised it hangs; set down it stands again.
        session().apply(edit::moved(session().stored_level(), std::vector<ItemId>{second}, {0, 0, 2}),
                        "Raise");
        settle();
        session().select({second});
        key(Qt::Key_J, Qt::ControlModifier | Qt::AltModifier);
        QVERIFY(std::abs(prop(second).place.at.z - 1) < 1e-6);
        // Brushes stay where they are.
        const Level before = session().level();
        settle();
        session().select({});
        drag(edit::middle_of(brush(box), facing_side(brush(box))), {-3, 3, 0});
        QVERIFY(session().level() == before);
    }

    void props_are_strewn_over_a_floor() {
        give_prop({0.2, 0.2, 0.2});
        draw_box(Qt::Key_B, {-4, -4, 0}, {4, 4, 0}, "0.5");
        key(Qt::Key_F4);
        session().select({});
        settle();
        click({0.3, 0.3, 0.5});
        QCOMPARE(session().selected_items().faces().size(), size_t(1));
        int shown = 0;
        with_dialog<StrewDialog>([&](StrewDialog& dialog) {
            for_each_item(session().level(),
                          [&](const Item& item, const Layer&) { shown += item.piece() != nullptr; });
            dialog.accept();
            return true;
        });
        key(Qt::Key_S, Qt::ControlModifier | Qt::AltModifier);
        QVERIFY(shown > 20); // they were seen before anybody said yes
        const Item* group = session().selected();
        QVERIFY(group && group->group());
        QCOMPARE(int(group->group()->items.size()), shown);
        for (const auto& item : group->group()->items)
            QVERIFY(std::abs(item->piece()->place.at.z - 0.5) < 1e-4);
        settle();
        keep_picture("strewn");
        session().documents().undo();
        with_dialog<StrewDialog>([](StrewDialog& dialog) {
            dialog.reject();
            return true;
        });
        const Level before = session().level();
        command("strew");
        QVERIFY(session().level() == before);
    }

    void a_lamp_is_put_down_raised_and_lights_what_it_sees() {
        draw_box(Qt::Key_B, {-1, 2, 0}, {1, 2.25, 0}, "2.5"); // a wall
        key(Qt::Key_F4);
        session().select({});
        settle();
        const Vec3 near(0.4, 0.6, 0);
        command("tool-place lamp");
        click({0, 0, 0});
        key(Qt::Key_Q);
        const ItemId lamp = session().selection().at(0);
        QCOMPARE(acts_as(*find_item(session().level(), lamp)->element()), std::string("lamp"));
        settle();
        // By the arrow above it, in small steps.
        const auto handles = handles_of(session(), view().camera());
        const auto raise = std::find_if(handles.begin(), handles.end(),
                                        [](const ItemHandle& one) { return one.grip == Grip::raise; });
        QVERIFY(raise != handles.end());
        drag(view(), raise->at.toPoint(), at(raise->place + Vec3(0, 0, 1.5)));
        const double up = find_item(session().level(), lamp)->element()->at.z;
        QVERIFY(up > 1 && up < 2.1);
        settle();
        // And along the ground.
        const Vec3 was = find_item(session().level(), lamp)->element()->at;
        drag(was + Vec3(0, 0, 0.1), was + Vec3(0, -1, 0.1));
        QVERIFY(find_item(session().level(), lamp)->element()->at.y < was.y - 0.4);
        settle();
        session().select({});
        const QColor lit = shown_at(near);
        keep_picture("lit");
        command("mode-day");
        const QColor day = shown_at(near);
        command("mode-plain");
        // Farther from the lamp it is darker, and behind the wall darker than beside it.
        QVERIFY(lit.lightness() > shown_at({-4, -4, 0}).lightness());
        QVERIFY(shown_from_above({3.4, 3.4, 0}).lightness() > shown_from_above({0, 3.4, 0}).lightness() + 5);
        QVERIFY(day != lit);
    }

    void a_parcel_is_made() {
        session().go_to(Stage::hand_off);
        settle();
        const QString target = files_.filePath("level.zip");
        bool made = false;
        with_dialog<ParcelDialog>([&](ParcelDialog& dialog) {
            auto* into = dialog.findChild<QLineEdit*>();
            if (into->text() != target) into->setText(target);
            for (QPushButton* button : dialog.findChildren<QPushButton*>())
                if (button->text() == "Make the parcel" && button->isEnabled()) {
                    window_->picture(); // nothing stands still while it is shown
                    QTest::mouseClick(button, Qt::LeftButton);
                    return made = true;
                }
            return false;
        });
        key(Qt::Key_E, Qt::ControlModifier | Qt::ShiftModifier);
        QVERIFY(made);
        QVERIFY(QFileInfo(target).size() > 1000);
    }

    void a_wall_is_dressed_and_runs_on_round_the_corner() {
        draw_box(Qt::Key_B, {0, 0, 0}, {3, 3, 0}, "2");
        const ItemId box = session().selection().at(0);
        key(Qt::Key_F4);
        session().select({});
        bring_in(picture("pink.png", QColor(255, 0, 255)));
        QCOMPARE(session().project().materials.back().name, std::string("Pink"));
        QVERIFY(session().project().materials.back().kind == MaterialKind::pattern);
        const auto [first, second] = seen_sides(box);
        const Vec3 on_first = edit::middle_of(brush(box), first),
                   on_second = edit::middle_of(brush(box), second);
        const QColor before = shown_at(on_first);
        click(on_first);
        QCOMPARE(session().selected_items().faces().size(), size_t(1));
        give("Pink");
        QVERIFY(edit::look_of(brush(box), first).material == session().project().materials.back().id);
        settle();
        session().select({});
        QTRY_VERIFY(shown_at(on_first).green() < 40 && shown_at(on_first).red() > 100);
        QVERIFY(before.green() > 60);
        keep_picture("dressed");
        // Where one builds, the level is told by its own colours.
        key(Qt::Key_9);
        QVERIFY(view().mode() == ViewMode::grey);
        key(Qt::Key_1);
        // The next face, round the corner.
        click(on_first);
        click(on_second, Qt::ShiftModifier);
        QCOMPARE(session().selected_items().faces().size(), size_t(2));
        window_->commands().find("lay-run-on")->action->trigger();
        QVERIFY(edit::look_of(brush(box), second).lay.kind == LayKind::edge);
        QVERIFY(edit::look_of(brush(box), second).material == edit::look_of(brush(box), first).material);
        session().documents().undo();
        QVERIFY(edit::look_of(brush(box), second).material.empty());
    }

    void a_material_is_dragged_out_of_the_tray_onto_a_face() {
        draw_box(Qt::Key_B, {0, 0, 0}, {4, 4, 0}, "3");
        const ItemId box = session().selection().at(0);
        session().go_to(Stage::dress);
        session().select({});
        const MaterialId material = session().project().materials.back().id;
        QMimeData carried;
        carried.setData(QString::fromLatin1(tray_material_format), QByteArray::fromStdString(material.value));
        const Vec3 top(2, 2, 3);
        const auto came = [&](QEvent::Type type, const QPoint& place) {
            bool taken = false;
            if (type == QEvent::DragEnter) {
                QDragEnterEvent event(place, Qt::CopyAction, &carried, Qt::LeftButton, {});
                QCoreApplication::sendEvent(&view(), &event), taken = event.isAccepted();
            } else if (type == QEvent::DragMove) {
                QDragMoveEvent event(place, Qt::CopyAction, &carried, Qt::LeftButton, {});
                QCoreApplication::sendEvent(&view(), &event), taken = event.isAccepted();
            } else {
                QDropEvent event(place, Qt::CopyAction, &carried, Qt::LeftButton, {});
                QCoreApplication::sendEvent(&view(), &event), taken = event.isAccepted();
            }
            paint(view());
            return taken;
        };
        QVERIFY(came(QEvent::DragEnter, QPoint(10, 10)));
        for (int i = 1; i <= 8; ++i)
            QVERIFY(came(QEvent::DragMove, QPoint(10, 10) + (at(top) - QPoint(10, 10)) * i / 8));
        QVERIFY(came(QEvent::Drop, at(top)));
        const Brush& dressed = *find_item(session().stored_level(), box)->brush();
        QCOMPARE(dressed.looks.size(), size_t(1)); // the face under the pointer alone
        QCOMPARE(dressed.looks.begin()->second.material, material);
        session().documents().undo();
        QVERIFY(find_item(session().stored_level(), box)->brush()->looks.empty());
    }

    void a_picture_is_moved_turned_and_sized_by_its_handles() {
        draw_box(Qt::Key_B, {0, 0, 0}, {3, 3, 0}, "2");
        const ItemId box = session().selection().at(0);
        key(Qt::Key_F4);
        session().select({});
        bring_in(picture("bands.png", QColor(90, 120, 200)));
        const BoxSide side = seen_sides(box).first;
        const Vec3 middle = edit::middle_of(brush(box), side), out = edit::outward(brush(box), side);
        click(middle);
        give("Bands");
        settle();
        const auto lay = [&] { return edit::look_of(brush(box), side).lay; };
        const Vec3 right = glm::cross(Vec3(0, 0, 1), out);
        // From the middle, to the right.
        drag(view(), at(middle), at(middle + right * 0.5));
        QVERIFY(std::abs(lay().shift.x - 0.5) < 0.13 && std::abs(lay().shift.y) < 0.13);
        settle();
        keep_picture("lay-handles");
        // By the end of the arm to the right, a quarter turn up.
        const QPointF arm = QPointF(at(middle + right * 0.1) - at(middle));
        const QPoint end = at(middle) + (arm * (46 / std::hypot(arm.x(), arm.y()))).toPoint();
        drag(view(), end, at(middle + Vec3(0, 0, 0.8)));
        QVERIFY2(std::abs(lay().turn_deg - 90) < 16, qPrintable(QString::number(lay().turn_deg)));
        settle();
        session().documents().undo();
        QCOMPARE(lay().turn_deg, 0.0);
        settle();
        // By the end of the arm that points up: twice as large where it is dragged twice as far.
        const QPointF up = QPointF(at(middle + Vec3(0, 0, 0.1)) - at(middle)) * 1.0;
        const QPointF along = up * (46 / std::hypot(up.x(), up.y()));
        drag(view(), at(middle) + along.toPoint(), at(middle) + (along * 1.5).toPoint());
        const double repeat = session().project().materials.back().metres.x;
        QVERIFY(lay().metres && lay().metres->x > repeat * 1.3 && lay().metres->x < repeat * 1.7);
        // Escape puts back what is under way.
        const Level before = session().level();
        settle();
        QTest::mousePress(&view(), Qt::LeftButton, {}, at(middle));
        for (int i = 1; i <= 8; ++i) {
            move_to(view(), at(middle) + QPoint(4 * i, 0), Qt::LeftButton);
            paint(view());
        }
        QVERIFY(session().level() != before);
        QTest::keyClick(&view(), Qt::Key_Escape);
        QTest::mouseRelease(&view(), Qt::LeftButton, {}, at(middle) + QPoint(32, 0));
        QVERIFY(session().level() == before);
    }

    void prints_are_found_drawn_and_named_over_the_picture() {
        key(Qt::Key_F4);
        QImage sheet(128, 64, QImage::Format_ARGB32);
        sheet.fill(Qt::transparent);
        QPainter painter(&sheet);
        painter.fillRect(8, 8, 40, 40, Qt::darkRed);
        painter.fillRect(72, 16, 40, 30, Qt::darkBlue);
        painter.end();
        const QString path = files_.filePath("labels.png");
        QVERIFY(sheet.save(path));
        bring_in(path);
        settle();
        const MaterialId id = session().project().materials.back().id;
        auto* list = named<QListWidget>("Materials");
        list->setCurrentRow(list->count() - 1);
        with_dialog<PrintsDialog>([&](PrintsDialog& dialog) {
            for (QPushButton* button : dialog.findChildren<QPushButton*>())
                if (button->text() == "Find by empty borders") QTest::mouseClick(button, Qt::LeftButton);
            PrintsView& prints = dialog.view();
            if (prints.prints().size() != 2) return false;
            // One more by hand, and one of them moved.
            drag_over(prints, prints.shown_at(52, 4), prints.shown_at(66, 60));
            drag_over(prints, prints.shown_at(20, 20), prints.shown_at(24, 22));
            dialog.grab();
            auto* rows = dialog.findChild<QListWidget*>();
            rows->item(0)->setText("fish");
            dialog.accept();
            return true;
        });
        press("Prints on its picture");
        const Material& material = *find_material(session().project(), id);
        QCOMPARE(material.prints.size(), size_t(3));
        QVERIFY(material.kind == MaterialKind::prints);
        QVERIFY(material.prints.contains("fish"));
        QCOMPARE(material.prints.at("fish").width, 40);
        QVERIFY(material.prints.at("fish").x > 9);
    }

    void a_print_is_fitted_and_its_look_is_taken_by_another_face() {
        draw_box(Qt::Key_B, {0, 0, 0}, {3, 3, 0}, "2");
        const ItemId box = session().selection().at(0);
        key(Qt::Key_F4);
        session().select({});
        bring_in(picture("door.png", QColor(40, 160, 90), false));
        QVERIFY(session().project().materials.back().kind == MaterialKind::prints);
        const auto [first, second] = seen_sides(box);
        const Vec3 on_first = edit::middle_of(brush(box), first),
                   on_second = edit::middle_of(brush(box), second);
        click(on_first);
        give("Door");
        QVERIFY(edit::look_of(brush(box), first).lay.kind == LayKind::fitted);
        QTRY_VERIFY(named<QComboBox>("The picture goes along with"));
        keep_picture("fitted");
        enter("Turned", "90");
        QCOMPARE(edit::look_of(brush(box), first).lay.turn_deg, 90.0);
        settle();
        click(on_second);
        click(on_first, Qt::AltModifier);
        QVERIFY(edit::look_of(brush(box), second) == edit::look_of(brush(box), first));
    }

    void what_is_still_bare_is_found_and_dressed() {
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "2");
        const ItemId box = session().selection().at(0);
        key(Qt::Key_F4);
        const size_t bare = edit::bare_faces(session().level()).size();
        key(Qt::Key_N, Qt::ControlModifier | Qt::AltModifier);
        QCOMPARE(session().selected_items().faces().size(), size_t(1));
        const edit::FaceRef one = session().selected_items().faces()[0];
        key(Qt::Key_N, Qt::ControlModifier | Qt::AltModifier);
        QVERIFY(session().selected_items().faces()[0] != one);
        auto* walls = named<QComboBox>("Walls");
        QVERIFY(walls && walls->count() > 1);
        walls->setCurrentIndex(1);
        emit walls->activated(1);
        key(Qt::Key_A, Qt::ControlModifier | Qt::AltModifier);
        QVERIFY(edit::bare_faces(session().level()).size() < bare);
        QVERIFY(!edit::look_of(brush(box), BoxSide::left).material.empty());
        QVERIFY(edit::look_of(brush(box), BoxSide::top).material.empty());
        settle();
        keep_picture("bare");
    }

    void strange_and_damaged_pictures_are_pictures_or_a_message() {
        key(Qt::Key_F4);
        test::Random random(77);
        const QString path = files_.filePath("strange.png");
        int taken = 0, refused = 0;
        for (int round = 0; round < test::rounds(200); ++round) {
            // Any size, some see-through, PNG or JPEG; then bytes of it are lost, changed, doubled or put in.
            QImage image(random.whole(1, 300), random.whole(1, 300),
                         random.chance(0.5) ? QImage::Format_ARGB32 : QImage::Format_Grayscale8);
            image.fill(random.whole(0, 1 << 20));
            QByteArray bytes;
            QBuffer buffer(&bytes);
            image.save(&buffer, random.chance(0.5) ? "PNG" : "JPG");
            for (int damage = random.whole(0, 3); damage > 0 && !bytes.isEmpty(); --damage) {
                const auto at = random.whole(0, int(bytes.size()) - 1);
                switch (random.whole(0, 3)) {
                case 0:
                    bytes.truncate(at);
                    break;
                case 1:
                    bytes[at] = char(random.whole(0, 255));
                    break;
                case 2:
                    bytes.insert(at, bytes.mid(at / 2, 40));
                    break;
                default:
                    bytes.remove(at, random.whole(1, 30));
                }
            }
            QFile file(path);
            QVERIFY(file.open(QIODevice::WriteOnly));
            file.write(bytes);
            file.close();
            const size_t before = session().project().materials.size();
            add_material_pictures(session(), *window_, {path});
            const bool came_in = session().project().materials.size() == before + 1;
            ++(came_in ? taken : refused);
            if (came_in) session().documents().undo();
            paint(view());
        }
        QVERIFY(taken > 0 && refused > 0);
    }

    void damaged_pictures_are_a_message() {
        key(Qt::Key_F4);
        const QString path = files_.filePath("broken.png");
        QFile whole(picture("whole.png", Qt::red));
        QVERIFY(whole.open(QIODevice::ReadOnly));
        const QByteArray bytes = whole.readAll();
        const size_t before = session().project().materials.size();
        for (const int length : {0, 5, 20, int(bytes.size()) / 2}) {
            QFile broken(path);
            QVERIFY(broken.open(QIODevice::WriteOnly));
            broken.write(bytes.left(length));
            broken.close();
            bring_in(path);
            QCOMPARE(session().project().materials.size(), before);
        }
    }
};

RUBBLE_TEST(DressJourneyTest)
#include "dress_journey_test.moc"
