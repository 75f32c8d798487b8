<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\Job;
use App\Models\Shot;
use App\Upkeep\Backup;
use App\Upkeep\BackupFailed;
use App\Upkeep\Upgrade;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;

/** Backups, putting them back, and bringing data up to date, on the data of the first release. */
final class BackupTest extends AppTestCase
{
    use FirstRelease;

    protected function prepare(): void
    {
        file_put_contents("{$this->folder}/data/footage/" . str_repeat('ab', 32), 'a film');
        mkdir("{$this->folder}/data/footage/" . str_repeat('cd', 32) . '.part.frames');
        file_put_contents("{$this->folder}/data/footage/" . str_repeat('cd', 32) . '.part.frames/1.png', 'half');
    }

    public function test_old_data_is_brought_up_to_date_and_checked(): void
    {
        self::assertTrue(Upgrade::isNeeded());
        self::assertSame(0, Artisan::call('cossel:upgrade', ['--check' => true]), Artisan::output());
        self::assertFalse(Upgrade::isNeeded());
        self::assertSame(5, Shot::count());
        self::assertCount(1, glob("{$this->folder}/data/backups/before-upgrade-*.sqlite") ?: []);
    }

    public function test_data_that_would_suffer_stays_as_it_was(): void
    {
        DB::table('revisions')->where('number', '>', 1)->update(['recipe' => '{"cossel":"recipe/9"}']);
        $before = DB::select('select name, sql from sqlite_master order by name');
        self::assertStringContainsString('cannot be read any more', (string) $this->app->make(Upgrade::class)->run());
        self::assertEquals($before, DB::select('select name, sql from sqlite_master order by name'));
        self::assertTrue(Upgrade::isNeeded());
    }

    public function test_a_backup_made_while_it_runs_is_put_back_while_it_runs(): void
    {
        Artisan::call('cossel:upgrade');
        $backup = $this->app->make(Backup::class);
        $place = "{$this->folder}/kept";
        $first = $backup->make($place);
        self::assertSame(9, $first['files'], 'eight tracks and a film, nothing half made');
        self::assertSame($first['files'], $first['copied']);
        // Another has it open all the while.
        $other = new \PDO("sqlite:{$this->folder}/data/cossel.sqlite");
        self::assertSame('5', (string) $other->query('select count(*) from shots')->fetchColumn());
        $name = Job::firstOrFail()->name;
        Job::firstOrFail()->update(['name' => 'Spoilt']);
        Shot::query()->delete();
        unlink("{$this->folder}/data/footage/" . str_repeat('ab', 32));
        file_put_contents("{$this->folder}/data/tracks/new.json", 'made later');
        self::assertSame(0, Artisan::call('cossel:restore', ['folder' => $place]), Artisan::output());
        self::assertSame([$name, 5], [Job::firstOrFail()->name, Shot::count()]);
        self::assertSame('5', (string) $other->query('select count(*) from shots')->fetchColumn());
        self::assertSame('a film', file_get_contents("{$this->folder}/data/footage/" . str_repeat('ab', 32)));
        // What was there before is kept, too.
        $before = glob("{$this->folder}/data/backups/before-restore-*.sqlite") ?: [];
        self::assertSame('Spoilt', (string) (new \PDO("sqlite:{$before[0]}"))->query('select name from jobs')->fetchColumn());
        // Into the same place again: only what is new.
        $again = $backup->make($place);
        self::assertSame([10, 1], [$again['files'], $again['copied']]);
        self::assertSame($place, $backup->last()['place'] ?? null);
    }

    public function test_a_backup_that_is_not_whole_changes_nothing(): void
    {
        Artisan::call('cossel:upgrade');
        $backup = $this->app->make(Backup::class);
        $place = "{$this->folder}/kept";
        $backup->make($place);
        Job::firstOrFail()->update(['name' => 'As it is']);
        $manifest = (string) file_get_contents("{$place}/backup.json");
        foreach ([
            'no whole backup' => static fn() => unlink("{$place}/backup.json"),
            'is damaged or missing' => static fn() => file_put_contents("{$place}/footage/" . str_repeat('ab', 32), 'a frog'),
            '../../etc/passwd of this backup' => static fn() => file_put_contents("{$place}/backup.json", str_replace('footage/' . str_repeat('ab', 32), '../../etc/passwd', $manifest)),
            'cossel.sqlite of this backup' => static fn() => file_put_contents("{$place}/cossel.sqlite", 'SQLite format 3'),
        ] as $words => $spoil) {
            file_put_contents("{$place}/backup.json", $manifest);
            file_put_contents("{$place}/footage/" . str_repeat('ab', 32), 'a film');
            $spoil();
            try {
                $backup->restore($place);
                self::fail("It was put back: {$words}");
            } catch (BackupFailed $refusal) {
                self::assertStringContainsString($words, $refusal->getMessage());
            }
            self::assertSame('As it is', Job::firstOrFail()->name);
        }
        $this->expectExceptionMessage('would not outlive it');
        $backup->make("{$this->folder}/data/backups/here");
    }
}
