#pragma once

#include <QStackedWidget>
#include <QTabBar>

#include "studies/players_page.h"
#include "studies/sides_page.h"
#include "studies/span_table.h"
#include "studies/versions_page.h"
#include "studies/what_if_page.h"
#include "window/pace_strip.h"

namespace rubble::app {

/// What lies under the views: the pace strip, and in Check beside it what is looked into beyond it, one
/// behind the other.
class StudyDesk : public QWidget {
    Q_OBJECT
public:
    enum Page { pace, spans, players, what_if, versions, sides };

    StudyDesk(Session& session, PaceStrip* strip, QWidget* parent = nullptr);
    /// Goes to Check where that is not shown yet.
    void show_page(Page page);

    SpanTable& span_table() { return *spans_; }
    PlayersPage& players_page() { return *players_; }
    VersionsPage& versions_page() { return *versions_; }
    SidesPage& sides_page() { return *sides_; }

private:
    void fit();

    Session& session_;
    QTabBar* tabs_ = nullptr;
    QStackedWidget* pages_ = nullptr;
    SpanTable* spans_ = nullptr;
    PlayersPage* players_ = nullptr;
    WhatIfPage* what_if_ = nullptr;
    VersionsPage* versions_ = nullptr;
    SidesPage* sides_ = nullptr;
};

} // namespace rubble::app
