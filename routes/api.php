<?php

declare(strict_types=1);

use App\Http\Controllers\AreaController;
use App\Http\Controllers\CarryController;
use App\Http\Controllers\CutController;
use App\Http\Controllers\DeliveryController;
use App\Http\Controllers\FaceController;
use App\Http\Controllers\FileController;
use App\Http\Controllers\FindPersonController;
use App\Http\Controllers\FolderController;
use App\Http\Controllers\FollowController;
use App\Http\Controllers\FrameNoteController;
use App\Http\Controllers\HistoryController;
use App\Http\Controllers\JobController;
use App\Http\Controllers\OutlineController;
use App\Http\Controllers\PeopleController;
use App\Http\Controllers\PictureController;
use App\Http\Controllers\PresetController;
use App\Http\Controllers\RecipeController;
use App\Http\Controllers\ShotController;
use App\Http\Controllers\TelltaleController;
use App\Http\Controllers\UpkeepController;
use App\Http\Controllers\UploadController;
use App\Http\Controllers\VersionController;
use App\Http\Middleware\InTurn;
use App\Treatment\StartingPoints;
use Illuminate\Support\Facades\Route;

Route::get('kinds', [RecipeController::class, 'kinds']);
Route::get('starting-points', static fn(): array => StartingPoints::all());
Route::get('formats', [DeliveryController::class, 'formats']);

Route::apiResource('jobs', JobController::class);
Route::put('jobs/{job}/order', [JobController::class, 'order']);
Route::apiResource('jobs.people', PeopleController::class)->only(['store', 'update', 'destroy'])->scoped(['person' => 'slug']);
Route::post('jobs/{job}/cut', [CutController::class, 'store']);
Route::get('jobs/{job}/cut.{form}', [CutController::class, 'show'])->whereIn('form', ['otio', 'edl']);
Route::post('jobs/{job}/uploads', [UploadController::class, 'store']);
Route::get('folders', [FolderController::class, 'index']);
Route::post('jobs/{job}/folder', [FolderController::class, 'store']);
Route::get('uploads/{upload}', [UploadController::class, 'show']);
Route::put('uploads/{upload}', [UploadController::class, 'update']);
Route::post('uploads/{upload}/shot', [UploadController::class, 'finish']);

Route::apiResource('shots.notes', FrameNoteController::class)->except('show')->scoped()->parameters(['notes' => 'frameNote']);
Route::apiResource('shots', ShotController::class)->only(['show', 'update', 'destroy']);
// What is computed from pixels waits for its turn, apart from everything else.
Route::middleware(InTurn::class)->group(static function (): void {
    Route::get('shots/{shot}/poster', [PictureController::class, 'poster']);
    Route::post('shots/{shot}/picture', [PictureController::class, 'picture']);
    Route::post('shots/{shot}/pictures', [PictureController::class, 'pictures']);
    Route::post('shots/{shot}/witnesses', [PictureController::class, 'witnesses']);
    Route::post('shots/{shot}/scope', [PictureController::class, 'scope']);
    Route::post('shots/{shot}/person', FindPersonController::class);
    Route::get('shots/{shot}/targets', [CarryController::class, 'targets']);
    Route::get('shots/{shot}/faces/{person}', [FaceController::class, 'show']);
    Route::get('shots/{shot}/faces/{person}/picture', [FaceController::class, 'picture']);
    Route::get('carries/{carry}/picture/{side}', [CarryController::class, 'picture'])->whereIn('side', ['before', 'after']);
    Route::post('shots/{shot}/edge', [OutlineController::class, 'edge']);
    Route::post('shots/{shot}/areas/{area}/colours', [AreaController::class, 'colours']);
    Route::post('shots/{shot}/areas/{area}/pick', [AreaController::class, 'pick']);
    Route::post('shots/{shot}/areas/{area}/sample', [AreaController::class, 'sample']);
    Route::post('shots/{shot}/areas/{area}/cover', [AreaController::class, 'cover']);
    Route::post('shots/{shot}/areas/{area}/other', [AreaController::class, 'other']);
});

Route::post('shots/{shot}/accept', [ShotController::class, 'accept']);
Route::post('shots/{shot}/read', [ShotController::class, 'read']);
Route::get('shots/{shot}/recipe', [RecipeController::class, 'show']);
Route::put('shots/{shot}/recipe', [RecipeController::class, 'update']);
Route::post('shots/{shot}/undo', [RecipeController::class, 'undo']);
Route::post('shots/{shot}/redo', [RecipeController::class, 'redo']);
Route::get('shots/{shot}/history', [HistoryController::class, 'index']);
Route::post('shots/{shot}/history/{revision}/restore', [HistoryController::class, 'restore'])->whereNumber('revision');
Route::apiResource('shots.versions', VersionController::class)->except('show')->scoped();
Route::post('shots/{shot}/versions/{version}/restore', [VersionController::class, 'restore'])->scopeBindings();
Route::get('shots/{shot}/telltales', [TelltaleController::class, 'show']);
Route::post('shots/{shot}/telltales', [TelltaleController::class, 'store']);
Route::put('shots/{shot}/telltales/limit', [TelltaleController::class, 'limit']);
Route::get('shots/{shot}/telltales/cures', [TelltaleController::class, 'cures']);
Route::put('shots/{shot}/areas/{area}/tick', [ShotController::class, 'tick']);
Route::delete('shots/{shot}/areas/{area}/tick', [ShotController::class, 'untick']);
Route::post('svg', [OutlineController::class, 'read']);
Route::get('shots/{shot}/areas/{area}/outline.svg', [OutlineController::class, 'write']);
Route::post('cubes', [FileController::class, 'cube']);
Route::post('cdl', [FileController::class, 'readCdl']);
Route::get('shots/{shot}/touches/{touch}/cdl.{form}', [FileController::class, 'writeCdl'])->whereIn('form', ['cc', 'ccc', 'cdl']);
Route::get('shots/{shot}/motions', [RecipeController::class, 'motions']);
Route::get('shots/{shot}/follows', [FollowController::class, 'index']);
Route::post('shots/{shot}/follows', [FollowController::class, 'store']);
Route::post('shots/{shot}/follows/person', [FollowController::class, 'person']);
Route::get('shots/{shot}/carries', [CarryController::class, 'index']);
Route::post('shots/{shot}/carries', [CarryController::class, 'store']);
Route::post('carries/{carry}/take', [CarryController::class, 'take']);
Route::post('carries/{carry}/back', [CarryController::class, 'back']);
Route::post('carries/{carry}/leave', [CarryController::class, 'leave']);
Route::post('follows/{follow}/stop', [FollowController::class, 'stop']);
Route::post('jobs/{job}/deliveries', [DeliveryController::class, 'many']);
Route::apiResource('jobs.presets', PresetController::class)->only(['index', 'store', 'destroy'])->scoped();
Route::get('jobs/{job}/deliveries.sha256', [DeliveryController::class, 'sums']);
Route::post('shots/{shot}/deliveries', [DeliveryController::class, 'store']);

Route::get('upkeep', [UpkeepController::class, 'show']);
Route::post('upkeep/room', [UpkeepController::class, 'room']);
Route::post('upkeep/failures/{failure}/retry', [UpkeepController::class, 'retry']);
Route::delete('upkeep/failures/{failure}', [UpkeepController::class, 'destroy']);

Route::get('deliveries', [DeliveryController::class, 'index']);
Route::put('deliveries/order', [DeliveryController::class, 'arrange']);
Route::post('deliveries/{delivery}/pause', [DeliveryController::class, 'pause']);
Route::post('deliveries/{delivery}/cancel', [DeliveryController::class, 'cancel']);
Route::post('deliveries/{delivery}/retry', [DeliveryController::class, 'retry']);
Route::delete('deliveries/{delivery}', [DeliveryController::class, 'destroy']);
Route::get('deliveries/{delivery}/file', [DeliveryController::class, 'file']);
Route::get('deliveries/{delivery}/beside', [DeliveryController::class, 'beside']);
