import { useText } from '../messages/use-text';

/** The first stop of the Tab key on every page: past all that stands above what the page is about. */
export const SkipLink = ({ to }: { to: string }) => {
  const { t } = useText();
  return (
    <a
      className="skip-link"
      href={`#${to}`}
      onClick={(event) => {
        // An address with a fragment would be another page to the router.
        event.preventDefault();
        const main = document.getElementById(to);
        main?.setAttribute('tabindex', '-1');
        main?.focus();
      }}
    >
      {t('common.skip')}
    </a>
  );
};
