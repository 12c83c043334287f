#include "app/window_driver.h"

#include "edit/brushes.h"
#include "edit/dressing.h"
#include "test_program.h"

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

    QTemporaryDir files_;

private slots:
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
