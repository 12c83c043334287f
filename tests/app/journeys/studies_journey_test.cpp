#include <QComboBox>
#include <QHeaderView>
#include <QInputDialog>
#include <QListWidget>
#include <QSpinBox>
#include <QTabBar>
#include <QTableView>
#include <QTableWidget>

#include "app/tiles_driver.h"
#include "core/level_maker.h"
#include "facts/facts.h"
#include "finding_list.h"
#include "sentences.h"
#include "studies/span_model.h"
#include "studies/study_desk.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// What is looked into in Check beyond the check: spans, players, other metrics; by mouse and keys.
class StudiesJourneyTest : public TilesDriver {
    Q_OBJECT

    /// A level of the demo in which nothing acts, and some claims hold.
    void begin() {
        QVERIFY(session().files().open(RUBBLE_SOURCE_DIR
                                       "/demo-data/packing-hall/levels/packing-hall-first-try.level.json"));
        settle();
        take_focus();
        session().go_to(Stage::check);
    }
    void command(const char* id) {
        window_->commands().find(id)->action->trigger();
        QCoreApplication::processEvents();
    }
    QTableView& table() { return *named<QTableView>("Spans"); }
    const SpanModel& model() {
        return *static_cast<const SpanModel*>(
            static_cast<QSortFilterProxyModel*>(table().model())->sourceModel());
    }
    bool all_found() {
        const auto& rows = model().rows();
        return !rows.empty() &&
               std::all_of(rows.begin(), rows.end(), [](const auto& row) { return row.facts.has_value(); });
    }
    void click_row(int row) {
        const QRect cell = table().visualRect(table().model()->index(row, SpanModel::kind));
        QTest::mouseClick(table().viewport(), Qt::LeftButton, {}, cell.center());
        QCoreApplication::processEvents();
    }
    /// Drags a slider's handle to a value, in small steps.
    void drag_slider(QSlider& slider, int to) {
        QStyleOptionSlider option;
        option.initFrom(&slider);
        option.orientation = slider.orientation();
        option.minimum = slider.minimum(), option.maximum = slider.maximum();
        option.sliderPosition = option.sliderValue = slider.value();
        const QRect handle =
            slider.style()->subControlRect(QStyle::CC_Slider, &option, QStyle::SC_SliderHandle, &slider);
        const double each = double(slider.width() - handle.width()) / (slider.maximum() - slider.minimum());
        drag_over(slider, handle.center(), handle.center() + QPointF((to - slider.value()) * each, 0));
    }

    /// Chooses in a list of choices.
    void choose(const char* name, int row) {
        auto* box = named<QComboBox>(name);
        QVERIFY2(box, name);
        box->setCurrentIndex(row);
        emit box->activated(row);
        for (int i = 0; i < 3; ++i) QCoreApplication::processEvents();
    }

private slots:
    void spans_are_listed_found_and_pinned() {
        begin();
        key(Qt::Key_2, Qt::AltModifier);
        QVERIFY(table().isVisible());
        QTRY_VERIFY_WITH_TIMEOUT(all_found(), 60000);
        QCOMPARE(model().rows().size(), session().built().check->spans.size());
        keep_picture("studies-spans");
        // Sorted by a click on a heading.
        QHeaderView& head = *table().horizontalHeader();
        QTest::mouseClick(head.viewport(), Qt::LeftButton, {},
                          QPoint(head.sectionViewportPosition(SpanModel::gap) + 8, head.height() / 2));
        const auto gap = [&](int row) {
            return table().model()->index(row, SpanModel::gap).data(Qt::UserRole).toDouble();
        };
        const int rows = table().model()->rowCount();
        QVERIFY(rows > 2);
        const bool ascending = gap(0) <= gap(rows - 1);
        for (int row = 1; row < rows; ++row)
            QVERIFY(ascending ? gap(row - 1) <= gap(row) : gap(row - 1) >= gap(row));
        // Filtered by grade.
        auto* grade = named<QComboBox>("Grade of spans");
        grade->setCurrentIndex(grade->findData(int(check::Grade::easy)));
        QVERIFY(table().model()->rowCount() < rows && table().model()->rowCount() > 0);
        grade->setCurrentIndex(0);
        // A row shows its arc, and is claimed.
        QVERIFY(!session().studies().picked);
        for (int row = 0; row < rows && session().level().claims.size() < 5; ++row) {
            click_row(row);
            QVERIFY(session().studies().picked.has_value());
            press("Claim that it stays so");
        }
        settle();
        const Claim& claim = session().level().claims.back();
        QCOMPARE(claim.kind, Claim::Kind::stays);
        const auto& judged = session().built().check->claims.back();
        QVERIFY(judged.id == claim.id && judged.state == check::ClaimState::holds);
        // More is asked than there is.
        Claim harder = claim;
        harder.value = 100.5;
        session().apply(edit::with_claim(edit::without_claim(session().stored_level(), claim.id), harder),
                        "Claim");
        settle();
        QCOMPARE(session().built().check->claims.back().state, check::ClaimState::fails);
        QVERIFY(!session().built().check->claims.back().reason.empty());
    }

    void an_arc_selects_its_row() {
        begin();
        key(Qt::Key_2, Qt::AltModifier);
        QTRY_VERIFY_WITH_TIMEOUT(all_found(), 60000);
        key(Qt::Key_Q);
        int taken = 0;
        for (const auto& row : model().rows()) {
            if (row.span.arc.size() < 3) continue;
            const auto middle = view().camera().to_screen(row.span.arc[row.span.arc.size() / 2]);
            if (!middle || !view().rect().contains(middle->toPoint())) continue;
            move_to(view(), middle->toPoint());
            paint(view());
            QTest::mouseClick(&view(), Qt::LeftButton, {}, middle->toPoint());
            QCoreApplication::processEvents();
            const auto& picked = session().studies().picked;
            if (!picked) continue; // something stands before it
            ++taken;
            // The row of the arc that was taken, which may be another that goes by there.
            const QModelIndex current = table().currentIndex();
            QVERIFY(current.isValid());
            const auto* sorted = static_cast<const QSortFilterProxyModel*>(table().model());
            const auto& shown = model().rows()[size_t(sorted->mapToSource(current).row())];
            QVERIFY(shown.span.from == picked->from && shown.span.to == picked->to);
        }
        QVERIFY(taken > 0);
    }

    void a_claim_says_until_which_edit_it_held() {
        begin();
        const auto& judged = session().built().check->claims;
        const auto holds = std::find_if(judged.begin(), judged.end(), [](const check::ClaimResult& one) {
            return one.state == check::ClaimState::holds && one.question.claim.kind == Claim::Kind::reaches;
        });
        QVERIFY(holds != judged.end());
        const ClaimId id = holds->id;
        const std::vector<ItemId> begins{holds->question.claim.from};
        session().apply(edit::moved(session().stored_level(), begins, {0, 0, 300}), "Carry it off");
        settle();
        window_->findChild<Facts*>()->show_claim(id);
        const auto said = [&](const QString& text) {
            for (const QLabel* label : window_->findChildren<QLabel*>())
                if (label->text().startsWith(text)) return true;
            return false;
        };
        QTRY_VERIFY(said("It held until: Carry it off"));
        keep_picture("studies-held-until");
        undo();
        settle();
        window_->findChild<Facts*>()->show_claim(id);
        QTRY_VERIFY(!said("It held until"));
    }

    void players_play_and_are_watched() {
        begin();
        key(Qt::Key_3, Qt::AltModifier);
        auto* runs = named<QSpinBox>("How many players");
        QVERIFY(runs && runs->isVisible());
        runs->setValue(60);
        auto* to = named<QComboBox>("Players go to");
        // Somewhere that is reached.
        for (const check::Place& place : session().built().check->places) {
            const int at = to->findData(QString::fromStdString(place.item.value));
            if (place.reached == check::Reached::yes && at >= 0 && place.time_s > 3) to->setCurrentIndex(at);
        }
        press("Let them play");
        QTRY_VERIFY_WITH_TIMEOUT(session().studies().crowd, 120000);
        const study::Crowd& crowd = *session().studies().crowd;
        QCOMPARE(crowd.runs.size(), size_t(60));
        QVERIFY(crowd.arrived > 0 && !crowd.runs[0].track.empty());
        press("Show the runs");
        QTRY_VERIFY_WITH_TIMEOUT(session().studies().crowd_s > 0.5, 60000);
        keep_picture("studies-players");
        press("Show the runs"); // stops
        const double now = session().studies().crowd_s;
        QTest::qWait(120);
        QCOMPARE(session().studies().crowd_s, now);
        // An edit makes it old: it goes.
        session().select({session().level().layers[0]->items[0]->id});
        view().setFocus();
        key(Qt::Key_D, Qt::ControlModifier);
        if (session().studies().crowd) command("undo");
        QVERIFY(!session().studies().crowd);
    }

    void players_who_do_not_know_the_way_look_for_it() {
        QVERIFY(session().files().open(RUBBLE_SOURCE_DIR
                                       "/demo-data/packing-hall/levels/packing-hall.level.json"));
        settle();
        take_focus();
        key(Qt::Key_3, Qt::AltModifier);
        named<QSpinBox>("How many players")->setValue(80);
        auto* skill = named<QComboBox>("Skill");
        auto* within = named<QSpinBox>("Give up after");
        QVERIFY(!within->isVisible());
        choose("Skill", skill->count() - 1);
        QVERIFY(within->isVisible());
        press("Let them play");
        QTRY_VERIFY_WITH_TIMEOUT(session().studies().exploration, 120000);
        QVERIFY(session().studies().crowd->arrived > 40);
        QVERIFY(session().studies().heat == Heat::visits);
        QVERIFY(named<QListWidget>("What costs players most")->count() > 0);
        press("Show the runs");
        QTRY_VERIFY_WITH_TIMEOUT(session().studies().crowd_s > 2, 60000);
        keep_picture("studies-explorers");
        press("Show the runs");
        for (const int which : {1, 0, 2}) {
            choose("What spots tell", which);
            QCOMPARE(int(session().studies().heat), which);
            paint(view());
        }
        // A row leads to its place.
        LevelView& seen = plan().isVisible() ? plan() : view();
        const Camera before = seen.camera();
        auto* costs = named<QListWidget>("What costs players most");
        QTest::mouseClick(costs->viewport(), Qt::LeftButton, {},
                          costs->visualItemRect(costs->item(1)).center());
        QTRY_VERIFY_WITH_TIMEOUT(seen.camera().target != before.target, 60000);
    }

    void an_earlier_version_is_a_ghost_and_lies_over_the_strip() {
        begin();
        key(Qt::Key_5, Qt::AltModifier);
        auto* choice = named<QComboBox>("Compare with");
        QVERIFY(choice && choice->isVisible());
        const int offered = choice->count();
        key(Qt::Key_K, Qt::AltModifier | Qt::ShiftModifier);
        QCOMPARE(choice->count(), offered + 1);
        choose("Compare with", choice->findText("the level as it was opened"));
        QTRY_VERIFY_WITH_TIMEOUT(session().studies().version, 60000);
        QVERIFY(session().studies().version->difference.items.empty());
        // One brush moves, one goes, one comes.
        const auto brushes = [&] {
            std::vector<Item> out;
            for_each_item(session().level(), [&](const Item& item, const Layer&) {
                if (item.brush()) out.push_back(item);
            });
            return out;
        };
        const std::vector<Item> all = brushes();
        Item moved = all.at(2);
        Brush body = *moved.brush();
        body.place.at.z += 0.5;
        moved.body = body;
        session().apply(edit::with_changed(session().stored_level(), moved), "Move");
        session().select({all.at(4).id});
        view().setFocus();
        key(Qt::Key_Delete);
        session().select({all.at(5).id});
        key(Qt::Key_D, Qt::ControlModifier);
        settle();
        QTRY_COMPARE_WITH_TIMEOUT(session().studies().version->difference.items.size(), size_t(3), 60000);
        auto* list = named<QListWidget>("Changes");
        QVERIFY(list->count() >= 3);
        for (int i = 0; i < list->count(); ++i) {
            key(Qt::Key_Down, Qt::AltModifier | Qt::ShiftModifier);
            QCOMPARE(list->currentRow(), i);
        }
        key(Qt::Key_Up, Qt::AltModifier | Qt::ShiftModifier);
        QCOMPARE(list->currentRow(), list->count() - 2);
        keep_picture("studies-version");
        key(Qt::Key_1, Qt::AltModifier);
        QCoreApplication::processEvents();
        keep_picture("studies-version-pace");
        choose("Compare with", 0);
        QVERIFY(!session().studies().version);
    }

    void both_sides_are_set_beside_each_other() {
        test::LevelMaker maker;
        maker.box({0, 0, -1}, {60, 20, 1});
        for (const double side : {-1.0, 1.0}) {
            maker.box({side * 10, 4, 0}, {2, 6, 3});
            maker.box({side * 16, -4, 0}, {3, 2, 1});
            maker.start({side * 28, 0, 0});
            maker.goal({side * 25, 6, 0});
        }
        session().apply(maker.level(), "Bases");
        settle();
        take_focus();
        key(Qt::Key_6, Qt::AltModifier);
        QTRY_VERIFY_WITH_TIMEOUT(session().studies().sides, 60000);
        for (const auto& way : session().studies().sides->ways) QVERIFY(way.fair());
        maker.box({26.5, 5, 0}, {0.5, 8, 3});
        session().apply(maker.level(), "Wall");
        settle();
        QTRY_VERIFY_WITH_TIMEOUT(!session().studies().sides->odd.empty(), 60000);
        QVERIFY(!session().studies().sides->ways.front().fair());
        auto* table = named<QTableWidget>("The two sides");
        QVERIFY(table->rowCount() > 2);
        const QRect cell = table->visualItemRect(table->item(0, 0));
        QTest::mouseClick(table->viewport(), Qt::LeftButton, {}, cell.center());
        QCOMPARE(session().selection().size(), size_t(4));
        paint(view());
        keep_picture("studies-sides");
        key(Qt::Key_1, Qt::AltModifier);
        QVERIFY(!session().studies().sides);
    }

    void sliders_show_what_would_break() {
        begin();
        key(Qt::Key_4, Qt::AltModifier);
        auto* jump = named<QSlider>("What if: Jump height");
        QVERIFY(jump && jump->isVisible());
        const double before = session().character().jump_height_m;
        drag_slider(*jump, -90);
        QVERIFY2(jump->value() < -60, qPrintable(QString::number(jump->value())));
        QTRY_VERIFY_WITH_TIMEOUT(session().studies().what_if, 60000);
        QVERIFY(session().studies().tint);
        QCOMPARE(session().character().jump_height_m, before); // nobody said yes
        const study::Comparison& comparison = session().studies().what_if->comparison;
        QVERIFY(!comparison.spans.empty());
        auto* list = named<QListWidget>("What would be otherwise");
        QCOMPARE(list->count() > 0, !comparison.claims.empty() || !comparison.places.empty());
        QCoreApplication::processEvents();
        keep_picture("studies-what-if");
        press("As it is");
        QVERIFY(!session().studies().what_if && jump->value() == 0);
        drag_slider(*jump, 40);
        QTRY_VERIFY_WITH_TIMEOUT(session().studies().what_if, 60000);
        press("Let it be so");
        settle();
        QVERIFY(session().character().jump_height_m > before);
        command("undo");
        settle();
        QCOMPARE(session().character().jump_height_m, before);
        press("How far may they go?");
        const auto limit_stands = [this] {
            for (const QLabel* label : window_->findChildren<QLabel*>())
                if (label->text().startsWith(QStringLiteral("≥"))) return true;
            return false;
        };
        QTRY_VERIFY_WITH_TIMEOUT(limit_stands(), 120000);
    }

    void any_place_is_asked_about() {
        begin();
        press("Ask about a place");
        const auto starts = elements_of(session().level(), Role::start);
        const Vec3 start = starts[0]->element()->at;
        // A click asks from the start.
        click(start + Vec3(2, 0, 0));
        QTRY_VERIFY_WITH_TIMEOUT(session().studies().asked, 60000);
        QVERIFY(session().studies().asked->reached == check::Reached::yes);
        QVERIFY(session().studies().asked->witness->seconds() < 3);
        keep_picture("studies-asked");
        // A drag asks between two places; the answer is kept as a claim.
        const auto before = session().studies().asked;
        drag(start + Vec3(2, 1, 0), start + Vec3(2, -2, 0));
        QTRY_VERIFY_WITH_TIMEOUT(session().studies().asked != before, 60000);
        QVERIFY(glm::length(flat(session().studies().asked->from) - flat(start + Vec3(2, 1, 0))) < 0.5);
        const size_t claims = session().level().claims.size();
        press("Claim it");
        settle();
        QCOMPARE(session().level().claims.size(), claims + 1);
        QCOMPARE(session().built().check->claims.back().state, check::ClaimState::holds);
        undo(); // all of it in one step
        QCOMPARE(session().level().claims.size(), claims);
        settle();
        // What is missing is said where one does not get.
        session().ask(start, elements_of(session().level(), Role::goal)[0]->element()->at);
        QTRY_VERIFY_WITH_TIMEOUT(
            session().studies().asked && session().studies().asked->reached == check::Reached::no, 60000);
        const auto& miss = session().studies().asked->miss;
        QVERIFY(miss && miss->limit == check::Limit::gap && std::abs(miss->missing_m - 0.54) < 0.02);
        keep_picture("studies-not-reached");
        // Mends follow a moment later, each tried; one of them is taken, and the place is reached.
        QTRY_VERIFY_WITH_TIMEOUT(
            session().studies().asked->miss && !session().studies().asked->miss->mends.empty(), 120000);
        keep_picture("studies-mends");
        const Level before_mend = session().level();
        const QString says =
            first_in_words(session().studies().asked->miss->mends[0].says, session().level());
        press(says);
        settle();
        QVERIFY(session().level() != before_mend);
        QCOMPARE(goal_reached(), check::Reached::yes);
        undo();
        QVERIFY(session().level() == before_mend);
    }

    void the_ground_tells_the_time() {
        begin();
        QVERIFY(!session().studies().tint);
        command("ground-seconds");
        QTRY_VERIFY_WITH_TIMEOUT(session().studies().tint, 60000);
        bool later = false;
        for (const auto& vertex : session().studies().tint->triangles) later |= vertex.kind > first_band_kind;
        QVERIFY(later);
        keep_picture("ground-seconds");
        command("ground-seconds");
        QVERIFY(!session().studies().tint);
        // Without the floor nothing is left.
        command("ground-lost");
        session().select({session().level().layers[0]->items[0]->id});
        QTRY_VERIFY_WITH_TIMEOUT(session().studies().tint, 60000);
        command("ground-lost");
        command("ground-headroom");
        QTRY_VERIFY_WITH_TIMEOUT(session().studies().tint, 60000);
        const auto share = [&](int band) {
            const auto& all = session().studies().tint->triangles;
            return double(
                       std::count_if(all.begin(), all.end(),
                                     [&](const auto& v) { return int(v.kind) == first_band_kind + band; })) /
                   double(all.size());
        };
        QVERIFY(share(0) > 0.5 && share(0) < 1);
        keep_picture("ground-headroom");
        session().select({elements_of(session().level(), Role::goal).at(0)->id});
        command("ground-seen");
        QTRY_VERIFY_WITH_TIMEOUT(session().studies().tint && share(0) > 0 && share(5) > 0.3, 60000);
        keep_picture("ground-seen");
        command("ground-seen");
        QVERIFY(!session().studies().tint);
    }

    void a_run_is_watched_slower_and_from_behind() {
        begin();
        for (const auto& judged : session().built().check->claims)
            if (judged.witness) window_->choose(QString::fromStdString(judged.id.value));
        press("Watch the run");
        const Camera before = view().camera();
        command("watch-slower");
        command("watch-follow");
        QTRY_VERIFY_WITH_TIMEOUT(glm::length(view().camera().eye() - before.eye()) > 1, 60000);
        keep_picture("watched");
        command("watch-pause");
        command("watch-pause");
        command("watch-stop");
        QVERIFY(glm::length(view().camera().eye() - before.eye()) < 1e-6);
        command("watch-follow"), command("watch-follow"); // from above, and as it was
    }

    void findings_are_walked_through() {
        begin();
        const auto findings = in_walking_order(*session().built().check, session().level());
        QVERIFY(findings.size() > 1);
        for (size_t i = 0; i < findings.size(); ++i) {
            key(Qt::Key_Down, Qt::AltModifier);
            QCOMPARE(session().selection(), findings[i].items);
            if (i > 0) QVERIFY(findings[i].severity >= findings[i - 1].severity);
        }
        key(Qt::Key_Down, Qt::AltModifier); // from the last to the first
        QCOMPARE(session().selection(), findings[0].items);
        key(Qt::Key_Up, Qt::AltModifier);
        QCOMPARE(session().selection(), findings.back().items);
    }

    void a_finding_is_excused_and_the_excuse_taken_back() {
        begin();
        const auto count = [&] { return session().built().check->findings.size(); };
        const size_t all = count();
        key(Qt::Key_Down, Qt::AltModifier);
        const auto answer = [&](const QString& reason) {
            QTimer::singleShot(0, [reason] {
                auto* asked = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
                QVERIFY(asked);
                QTest::keyClicks(asked->findChild<QLineEdit*>(), reason);
                QTest::keyClick(asked, Qt::Key_Return);
            });
            key(Qt::Key_X, Qt::AltModifier);
            settle();
        };
        answer({}); // without a reason it stays
        QCOMPARE(count(), all);
        answer("A bench");
        QCOMPARE(count(), all - 1);
        QCOMPARE(session().built().check->excused.at(0).reason, std::string("A bench"));
        keep_picture("excused");
        auto* list = named<QListWidget>("Excused");
        QVERIFY(list && list->count() == 1);
        list->setCurrentRow(0);
        press("Take this excuse back");
        settle();
        QCOMPARE(count(), all);
        // A whole rule is left out, and wanted again.
        key(Qt::Key_Down, Qt::AltModifier);
        press("Never look for this");
        settle();
        QVERIFY(count() < all);
        QCoreApplication::processEvents();
        press("Look for all again");
        settle();
        QCOMPARE(count(), all);
    }

    void findings_are_listed_by_place_and_by_how_grave() {
        begin();
        const auto listed = [&] { return named<QListWidget>("Findings")->count(); };
        const auto& findings = session().built().check->findings;
        const auto blockers = std::count_if(findings.begin(), findings.end(), [](const auto& one) {
            return one.severity == check::Severity::blocker;
        });
        choose("How grave", 0);
        QVERIFY2(blockers > 0 && listed() >= blockers && size_t(listed()) < findings.size(),
                 qPrintable(QStringLiteral("%1 blockers of %2, %3 listed")
                                .arg(blockers)
                                .arg(findings.size())
                                .arg(listed())));
        choose("How grave", 2);
        const int by_rule = listed();
        choose("What goes together", 1);
        keep_picture("findings-by-place");
        QVERIFY(listed() > 0 && listed() != by_rule);
        choose("What goes together", 0);
        QCOMPARE(listed(), by_rule);
    }

    void players_are_claimed_of() {
        begin();
        const auto& level = session().level();
        Claim claim = level.claims.at(0);
        claim.id = {"c-share"}, claim.kind = Claim::Kind::share, claim.value = 1, claim.skill = "expert";
        for (const Claim& one : level.claims)
            for (const auto& judged : session().built().check->claims)
                if (judged.id == one.id && one.kind == Claim::Kind::reaches &&
                    judged.state == check::ClaimState::holds)
                    claim.from = one.from, claim.to = one.to;
        session().apply(edit::with_claim(session().stored_level(), claim), "Claim");
        settle();
        const auto state = [&] { return session().built().check->claims.back().state; };
        QTRY_VERIFY_WITH_TIMEOUT(state() == check::ClaimState::holds, 120000);
    }
};

RUBBLE_TEST(StudiesJourneyTest)
#include "studies_journey_test.moc"
