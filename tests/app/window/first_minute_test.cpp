#include <QtTest/QtTest>

#include <QSplitter>

#include "app/window_driver.h"
#include "io/level_file.h"
#include "test_program.h"
#include "view/overlay.h"

using namespace rubble;
using namespace rubble::app;

/// What somebody meets in the first minute: the views lie where they show most, one walks from what one
/// points at, looks round inside rooms, and the first claim is one press away.
class FirstMinuteTest : public WindowDriver {
    Q_OBJECT

    /// Opens a level of one floor of a size, its middle at the origin.
    void open_floor(const Vec3& size) {
        Brush floor;
        floor.place.at = {0, 0, -size.z};
        floor.size = size;
        const Level level =
            edit::with_item(new_level("floor", {"courier"}), 0, {{"wide"}, {}, false, floor, {}});
        const QString file = folder_.filePath("floor.level.json");
        QVERIFY(io::save_level(level, file.toStdString()));
        QVERIFY(window_->open_path(file));
        settle();
    }
    Qt::Orientation views() { return window_->findChild<QSplitter*>("views")->orientation(); }
    /// Through the window system, as the real pointer comes: what is under it is known to all.
    void point_at(const QPoint& in_view) {
        QTest::mouseMove(window_->windowHandle(), view().mapTo(window_.get(), in_view));
        QCoreApplication::processEvents();
    }
    ItemId start() { return elements_of(session().level(), Role::start)[0]->id; }
    void put_start_at(const Vec3& at) {
        Item item = *elements_of(session().level(), Role::start)[0];
        Element element = *item.element();
        element.at = at;
        item.body = element;
        session().apply(edit::with_changed(session().level(), item), "Start");
    }

private slots:
    void a_wide_level_has_the_view_beside_below_and_a_deep_one_at_its_right() {
        open_floor({60, 10, 0.5});
        QCOMPARE(views(), Qt::Vertical);
        open_floor({10, 60, 0.5});
        QCOMPARE(views(), Qt::Horizontal);
    }

    void where_the_line_between_the_views_lies_is_kept_when_they_are_laid_anew() {
        open_floor({10, 60, 0.5});
        auto* splitter = window_->findChild<QSplitter*>("views");
        const int wide = splitter->width();
        splitter->setSizes({wide / 4, wide - wide / 4});
        open_floor({60, 10, 0.5});
        const QList<int> sizes = splitter->sizes();
        QVERIFY2(std::abs(double(sizes[0]) / (sizes[0] + sizes[1]) - 0.25) < 0.06,
                 qPrintable(QStringLiteral("%1 of %2").arg(sizes[0]).arg(sizes[0] + sizes[1])));
    }

    void keys_move_the_eye_while_one_looks_round_and_draw_nothing() {
        const auto tool_steps = session().documents().undo_text();
        const Vec3 eye = view().camera().eye(), forward = view().camera().forward();
        const QPoint middle = view().rect().center();
        point_at(middle);
        QWindow* shown = window_->windowHandle();
        const QPoint there = view().mapTo(window_.get(), middle);
        QTest::mousePress(shown, Qt::RightButton, {}, there);
        QTest::keyPress(&view(), Qt::Key_W);
        QTRY_VERIFY_WITH_TIMEOUT(glm::dot(view().camera().eye() - eye, forward) > 0.5, 60000);
        QTest::keyRelease(&view(), Qt::Key_W);
        const Vec3 right = view().camera().right(), before = view().camera().eye();
        QTest::keyPress(&view(), Qt::Key_A);
        QTRY_VERIFY_WITH_TIMEOUT(glm::dot(view().camera().eye() - before, right) < -0.3, 60000);
        // Let go of the button first: the key no longer steers.
        QTest::mouseRelease(shown, Qt::RightButton, {}, there);
        QTest::qWait(60);
        const Vec3 stopped = view().camera().eye();
        QTest::qWait(60);
        QCOMPARE(view().camera().eye(), stopped);
        QTest::keyRelease(&view(), Qt::Key_A);
        QCOMPARE(session().documents().undo_text(), tool_steps);
    }

    void one_walks_from_the_nearest_place_to_the_pointer_that_bears() {
        // Beside the floor's edge: on the edge.
        const Box3 floor = box_of(session().level());
        const Vec3 beside{floor.high.x + 1, 0, 0};
        point_at(at(beside));
        key(Qt::Key_G);
        QVERIFY(view().walking());
        const Vec3 stood = view().walker()->state().at;
        QVERIFY2(stood.x <= floor.high.x + 0.5 && stood.x > floor.high.x - 2 && std::abs(stood.z) < 0.1,
                 qPrintable(QString::number(stood.x)));
        QTest::keyClick(&view(), Qt::Key_Escape);
    }

    void pointing_at_nothing_one_walks_from_the_start_and_is_told_so() {
        view().fly_to({60, 60, 0});
        point_at(at({60, 60, 0}));
        key(Qt::Key_G);
        QVERIFY(view().walking());
        QVERIFY(glm::length(view().walker()->state().at -
                            elements_of(session().level(), Role::start)[0]->element()->at) < 0.1);
        bool said = false;
        for (QLabel* label : window_->findChildren<QLabel*>())
            said = said || label->text().contains("The walk begins at the start");
        QVERIFY(said);
        QTest::keyClick(&view(), Qt::Key_Escape);
    }

    void one_walks_on_what_was_built_last_though_the_check_is_not_through() {
        const Vec3 at = elements_of(session().level(), Role::start)[0]->element()->at;
        Brush block;
        block.place.at = at;
        block.size = {2, 2, 1};
        session().apply(edit::with_item(session().level(), 0, {{"block"}, {}, false, block, {}}), "Block");
        put_start_at(at + Vec3(0, 0, 1));
        QVERIFY(!session().up_to_date());
        key(Qt::Key_G);
        QVERIFY(view().walking());
        QTest::qWait(700);
        QVERIFY(std::abs(view().walker()->state().at.z - at.z - 1) < 0.02);
        QTest::keyClick(&view(), Qt::Key_Escape);
    }

    void start_and_goal_without_a_claim_are_claimed_by_one_press() {
        key(Qt::Key_F5);
        const auto offers = [&] {
            QCoreApplication::processEvents();
            for (QPushButton* button : window_->findChildren<QPushButton*>())
                if (button->isVisible() && button->text().startsWith("Claim:")) return true;
            return false;
        };
        QVERIFY(!offers()); // there is no goal yet
        Element goal;
        goal.kind = "goal";
        goal.at = elements_of(session().level(), Role::start)[0]->element()->at + Vec3(2, 0, 0);
        session().apply(edit::with_item(session().level(), 0, {{"goal1"}, {}, false, goal, {}}), "Goal");
        settle();
        QVERIFY(offers());
        press("Claim:");
        settle();
        QCOMPARE(session().level().claims.size(), size_t(1));
        QCOMPARE(session().level().claims[0].from, start());
        QCOMPARE(session().level().claims[0].to, ItemId{"goal1"});
        QVERIFY(session().built().check->claims[0].state == check::ClaimState::holds);
        QVERIFY(!offers());
    }

    void labels_give_way_and_never_lie_over_each_other() {
        QImage image(400, 200, QImage::Format_RGB32);
        QPainter painter(&image);
        Labels labels(painter);
        const QRectF kept(150, 60, 100, 80);
        labels.keep_free(kept);
        QVERIFY(!labels.put({200, 100}, "Crates", Qt::black)); // over what is worked on
        QVERIFY(!labels.put({500, 100}, "Crates", Qt::black)); // out of sight
        QVERIFY(labels.put({60, 100}, "Crates", Qt::black));
        QVERIFY(!labels.put({62, 104}, "Tubs", Qt::black));
        QVERIFY(labels.put_near({62, 104}, "Tubs", Qt::black)); // beside it
        // Many at one place: some are left out, none is over another.
        image.fill(Qt::white);
        int put = 0;
        for (int i = 0; i < 20; ++i) put += labels.put_near({330, 100}, "Ice", Qt::black);
        QVERIFY(put >= 2 && put <= 5);
    }
};

RUBBLE_TEST(FirstMinuteTest)

#include "first_minute_test.moc"
