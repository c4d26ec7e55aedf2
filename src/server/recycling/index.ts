export { changePacks, closeConsignment, startConsignment } from './service';
