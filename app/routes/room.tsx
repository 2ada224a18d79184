export { RoomPage as default } from '../features/room/room-page';
