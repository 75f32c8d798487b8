<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\Job;
use App\Models\Shot;
use App\Upkeep\Backup;
use App\Upkeep\BackupFailed;
use App\Upkeep\Restore;
use App\Upkeep\Upgrade;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use PHPUnit\Framework\Attributes\DataProvider;
use Symfony\Component\Console\Output\BufferedOutput;

/** Backups, putting them back, and bringing data up to date, on the data of the first release. */
final class BackupTest extends AppTestCase
{
    use FirstRelease;

    protected function prepare(): void
    {
        file_put_contents($this->kept(), 'a film');
        DB::table('footage')->where('id', 1)->update(['sha256' => hash('sha256', 'a film'), 'path' => 'footage/' . hash('sha256', 'a film')]);
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
        unlink($this->kept());
        file_put_contents("{$this->folder}/data/tracks/new.json", 'made later');
        self::assertSame(0, Artisan::call('cossel:restore', ['folder' => $place]), Artisan::output());
        self::assertSame([$name, 5], [Job::firstOrFail()->name, Shot::count()]);
        self::assertSame('5', (string) $other->query('select count(*) from shots')->fetchColumn());
        self::assertSame('a film', file_get_contents($this->kept()));
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
            'is damaged or missing' => function () use ($place): void {
                file_put_contents("{$place}/footage/" . hash('sha256', 'a film'), 'a frog');
                unlink($this->kept());
            },
            '../../etc/passwd of this backup' => static fn() => file_put_contents("{$place}/backup.json", str_replace('footage/' . hash('sha256', 'a film'), '../../etc/passwd', $manifest)),
            'cossel.sqlite of this backup' => static fn() => file_put_contents("{$place}/cossel.sqlite", 'SQLite format 3'),
        ] as $words => $spoil) {
            file_put_contents("{$place}/backup.json", $manifest);
            file_put_contents("{$place}/footage/" . hash('sha256', 'a film'), 'a film');
            $spoil();
            try {
                $this->app->make(Restore::class)->run($place);
                self::fail("It was put back: {$words}");
            } catch (BackupFailed $refusal) {
                self::assertStringContainsString($words, $refusal->getMessage());
            }
            self::assertSame('As it is', Job::firstOrFail()->name);
        }
        $this->expectExceptionMessage('would not outlive it');
        $backup->make("{$this->folder}/data/backups/here");
    }

    public function test_a_damaged_copy_never_replaces_the_file_and_is_copied_again(): void
    {
        Artisan::call('cossel:upgrade');
        $backup = $this->app->make(Backup::class);
        $place = "{$this->folder}/kept";
        $backup->make($place);
        $copy = "{$place}/footage/" . hash('sha256', 'a film');
        file_put_contents($copy, 'a filn');
        ['damaged' => $damaged] = $this->app->make(Restore::class)->run($place);
        self::assertSame(['footage/' . hash('sha256', 'a film')], $damaged);
        self::assertSame('a film', file_get_contents($this->kept()));
        // Changed later, it is noticed at once; by a failing disk, at its own time, within a week of nights.
        touch($copy, time() + 5);
        self::assertSame(['footage/' . hash('sha256', 'a film')], $backup->make($place)['mended']);
        self::assertSame('a film', file_get_contents($copy));
        $changed = (int) filemtime($copy);
        file_put_contents($copy, 'a filn');
        touch($copy, $changed);
        $nights = 0;
        do {
            $this->travel(1)->days();
            $mended = $backup->make($place)['mended'];
        } while ($mended === [] && ++$nights < 8);
        self::assertLessThan(8, $nights);
        self::assertSame('a film', file_get_contents($copy));
        file_put_contents($copy, 'a filn');
        touch($copy, (int) filemtime($copy));
        self::assertCount(1, $backup->make($place, true)['mended'], 'all on request');
    }

    public function test_a_damaged_file_is_named_and_its_good_copy_stays(): void
    {
        Artisan::call('cossel:upgrade');
        $backup = $this->app->make(Backup::class);
        $place = "{$this->folder}/kept";
        $backup->make($place);
        file_put_contents($this->kept(), 'a filn');
        touch($this->kept(), time() + 5);
        self::assertSame(1, Artisan::call('cossel:backup', ['folder' => $place]));
        self::assertStringContainsString('Damaged in the data folder: footage/' . hash('sha256', 'a film'), (string) preg_replace('/\s+/', ' ', Artisan::output()));
        self::assertStringContainsString('damaged files', implode(' ', $this->app->make(\App\Upkeep\State::class)->told()['troubles']));
        self::assertSame('a film', file_get_contents("{$place}/footage/" . hash('sha256', 'a film')));
        $this->app->make(Restore::class)->run($place);
        self::assertSame('a film', file_get_contents($this->kept()));
        // Nothing good anywhere: what is there is left, and named.
        file_put_contents($this->kept(), 'a filn');
        file_put_contents("{$place}/footage/" . hash('sha256', 'a film'), 'a fill');
        self::assertSame(['footage/' . hash('sha256', 'a film')], $backup->make($place, true)['damaged']);
        self::assertSame('a fill', file_get_contents("{$place}/footage/" . hash('sha256', 'a film')));
    }

    public function test_a_backup_is_put_back_over_a_database_that_is_damaged(): void
    {
        Artisan::call('cossel:upgrade');
        $place = "{$this->folder}/kept";
        $this->app->make(Backup::class)->make($place);
        $database = "{$this->folder}/data/cossel.sqlite";
        $whole = (string) file_get_contents($database);
        foreach (['no database' => str_repeat('x', 50_000), 'torn' => substr($whole, 0, 3000) . str_repeat('x', 20_000), 'cut short' => substr($whole, 0, 5000), 'empty' => ''] as $what => $bytes) {
            DB::purge();
            array_map(unlink(...), glob("{$database}*") ?: []);
            file_put_contents($database, $bytes);
            $this->travel(2)->seconds();
            if ($what !== 'empty') {
                try {
                    // A backup of it is not to be had, and costs the one there is nothing.
                    $this->app->make(Backup::class)->make($place);
                    self::fail("{$what}: it was backed up.");
                } catch (BackupFailed $failed) {
                    self::assertMatchesRegularExpression('/damaged|cannot be read/', $failed->getMessage(), $what);
                }
            }
            ['before' => $before] = $this->app->make(Restore::class)->run($place);
            DB::purge();
            self::assertSame(5, Shot::count(), $what);
            self::assertFileExists($before, $what);
            $what === 'empty' || self::assertSame(substr($bytes, 0, 2000), substr((string) file_get_contents($before), 0, 2000), $what);
        }
    }

    public function test_a_folder_whose_manifest_is_damaged_can_be_backed_up_into_again(): void
    {
        Artisan::call('cossel:upgrade');
        $backup = $this->app->make(Backup::class);
        $place = "{$this->folder}/kept";
        $backup->make($place);
        file_put_contents("{$place}/backup.json", '{"cossel":"backup/1","files":7}');
        file_put_contents("{$place}/footage/" . hash('sha256', 'a film'), 'a filn');
        self::assertSame([9, 1], [($made = $backup->make($place))['files'], $made['copied']]);
        self::assertSame('a film', file_get_contents("{$place}/footage/" . hash('sha256', 'a film')));
    }

    /** @return iterable<string, array{string, \Closure(string): void}> */
    public static function unfit(): iterable
    {
        $change = static fn(string $sql): \Closure => static function (string $place) use ($sql): void {
            (new \PDO("sqlite:{$place}/cossel.sqlite"))->exec($sql);
            self::resum($place);
        };
        yield 'no tables' => ['has no table', static function (string $place): void {
            unlink("{$place}/cossel.sqlite");
            (new \PDO("sqlite:{$place}/cossel.sqlite"))->exec('create table bread (id integer)');
            self::resum($place);
        }];
        yield 'recipes' => ['cannot be read any more', $change("update revisions set recipe = '{\"cossel\":\"recipe/9\"}'")];
        yield 'newer' => ['newer version', $change("insert into migrations (migration, batch) values ('2099_01_01_000001_more', 9)")];
        yield 'damaged' => ['Its database is damaged', static function (string $place): void {
            file_put_contents("{$place}/cossel.sqlite", substr((string) file_get_contents("{$place}/cossel.sqlite"), 0, 2000) . str_repeat('x', 50_000));
            self::resum($place);
        }];
        yield 'no database at all' => ['Its database is damaged', static function (string $place): void {
            file_put_contents("{$place}/cossel.sqlite", str_repeat('x', 50_000));
            self::resum($place);
        }];
        yield 'no files' => ['backup.json of this backup is damaged', static fn(string $place) => self::retell($place, static function (array $told): array {
            unset($told['files']);

            return $told;
        })];
        yield 'files that are none' => ['backup.json of this backup is damaged', static fn(string $place) => self::retell($place, static fn(array $told): array => [...$told, 'files' => ['tracks/1' => 7]])];
        yield 'a link' => ['is a link', static function (string $place): void {
            rename("{$place}/footage/" . hash('sha256', 'a film'), dirname($place) . '/elsewhere');
            symlink(dirname($place) . '/elsewhere', "{$place}/footage/" . hash('sha256', 'a film'));
        }];
        yield 'a folder that is a link' => ['is a link', static function (string $place): void {
            rename("{$place}/footage", dirname($place) . '/elsewhere');
            symlink(dirname($place) . '/elsewhere', "{$place}/footage");
        }];
    }

    /** @param \Closure(string): void $spoil */
    #[DataProvider('unfit')]
    public function test_what_cannot_be_used_is_refused_in_a_sentence(string $words, \Closure $spoil): void
    {
        Artisan::call('cossel:upgrade');
        $place = "{$this->folder}/kept";
        $this->app->make(Backup::class)->make($place);
        Job::firstOrFail()->update(['name' => 'As it is']);
        unlink("{$this->folder}/data/" . ($track = substr((string) (glob("{$place}/tracks/*/*.json") ?: [])[0], strlen($place) + 1)));
        $spoil($place);
        self::assertSame(1, Artisan::call('cossel:restore', ['folder' => $place], $output = new BufferedOutput()));
        $said = trim((string) preg_replace('/\s+/', ' ', $output->fetch()));
        self::assertStringContainsString($words, $said);
        self::assertStringEndsWith('Nothing was changed.', $said);
        self::assertSame('As it is', Job::firstOrFail()->name);
        self::assertFileDoesNotExist("{$this->folder}/data/{$track}");
        self::assertSame([], glob("{$this->folder}/data/backups/*restore*") ?: []);
    }

    private function kept(): string
    {
        return "{$this->folder}/data/footage/" . hash('sha256', 'a film');
    }

    /** Makes the manifest fit a database that was spoilt, as somebody would who means it. */
    private static function resum(string $place): void
    {
        self::retell($place, static fn(array $told): array => [...$told, 'database' => hash_file('sha256', "{$place}/cossel.sqlite")]);
    }

    /** @param callable(array<string, mixed>): array<string, mixed> $change */
    private static function retell(string $place, callable $change): void
    {
        file_put_contents("{$place}/backup.json", json_encode($change(json_decode((string) file_get_contents("{$place}/backup.json"), true)), JSON_THROW_ON_ERROR));
    }
}
